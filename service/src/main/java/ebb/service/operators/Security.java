package ebb.service.operators;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpStatus;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.annotation.web.configurers.AbstractHttpConfigurer;
import org.springframework.security.config.http.SessionCreationPolicy;
import org.springframework.security.core.AuthenticationException;
import org.springframework.security.core.userdetails.UserDetailsService;
import org.springframework.security.core.userdetails.UsernameNotFoundException;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.UsernamePasswordAuthenticationFilter;

/** Everything needs a token but health and asks. There are no cookies, so nothing to forge with. */
@Configuration
class Security {
  @Bean
  SecurityFilterChain filters(HttpSecurity http, Tokens tokens, SentTwice sentTwice)
      throws Exception {
    return http.csrf(AbstractHttpConfigurer::disable)
        .sessionManagement(
            session -> session.sessionCreationPolicy(SessionCreationPolicy.STATELESS))
        .authorizeHttpRequests(
            requests ->
                requests
                    .requestMatchers("/actuator/health", "/ask/*", "/error")
                    .permitAll()
                    .anyRequest()
                    .authenticated())
        .exceptionHandling(handling -> handling.authenticationEntryPoint(Security::unknown))
        .addFilterBefore(new TokenFilter(tokens), UsernamePasswordAuthenticationFilter.class)
        .addFilterAfter(sentTwice, UsernamePasswordAuthenticationFilter.class)
        .build();
  }

  /** Keeps Boot from making a user with a password of its own. */
  @Bean
  UserDetailsService nobodyByPassword() {
    return name -> {
      throw new UsernameNotFoundException(name);
    };
  }

  private static void unknown(
      HttpServletRequest request, HttpServletResponse response, AuthenticationException e)
      throws IOException {
    response.setStatus(HttpStatus.UNAUTHORIZED.value());
    response.setHeader("WWW-Authenticate", "Bearer");
    response.setContentType("application/problem+json");
    response
        .getWriter()
        .write(
            """
            {"type":"urn:ebb:problem:token-needed","title":"A token in force is needed.","status":401,\
            "detail":"The token is missing, unknown, over or revoked.","code":"token-needed",\
            "remedy":"Send the header Authorization: Bearer TOKEN; set EBB_TOKEN for the client."}""");
  }
}
