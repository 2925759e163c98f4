package ebb.service.push;

import ebb.core.problem.Problem;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.http.SessionCreationPolicy;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.UsernamePasswordAuthenticationFilter;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Senders show who they are by the bearer token of their feed (RFC 6750), which is good for nothing
 * else; an operator's token is good for nothing here.
 */
@Configuration
class PushSecurity {
  private static final String BEARER = "Bearer ";

  private static final Problem TOKEN_NEEDED =
      new Problem(
          "scim-token-needed",
          "Nobody can tell who sends this.",
          "The token of a feed is missing, unknown, or was replaced.",
          "Send the header Authorization: Bearer TOKEN with the token made for the feed.",
          null);

  @Bean
  @Order(Ordered.HIGHEST_PRECEDENCE)
  SecurityFilterChain pushes(HttpSecurity http, PushSources sources) throws Exception {
    return http.securityMatcher(PushController.PATH + "/**")
        .csrf(csrf -> csrf.disable())
        .sessionManagement(
            session -> session.sessionCreationPolicy(SessionCreationPolicy.STATELESS))
        .requestCache(cache -> cache.disable())
        .authorizeHttpRequests(requests -> requests.anyRequest().authenticated())
        .exceptionHandling(
            handling -> handling.authenticationEntryPoint((_, response, _) -> refuse(response)))
        .addFilterBefore(new SenderFilter(sources), UsernamePasswordAuthenticationFilter.class)
        .build();
  }

  private static void refuse(HttpServletResponse response) throws IOException {
    response.setStatus(HttpStatus.UNAUTHORIZED.value());
    response.setHeader(HttpHeaders.WWW_AUTHENTICATE, "Bearer");
    response.setContentType(PushAnswers.SCIM.toString());
    response.setCharacterEncoding(StandardCharsets.UTF_8);
    response
        .getWriter()
        .write(ScimErrors.body(HttpStatus.UNAUTHORIZED, List.of(TOKEN_NEEDED)).toString());
  }

  private static final class SenderFilter extends OncePerRequestFilter {
    private final PushSources sources;

    SenderFilter(PushSources sources) {
      this.sources = sources;
    }

    @Override
    protected void doFilterInternal(
        HttpServletRequest request, HttpServletResponse response, FilterChain chain)
        throws ServletException, IOException {
      var header = request.getHeader(HttpHeaders.AUTHORIZATION);
      // The name of a scheme is written in any letter case (RFC 9110, 11.1).
      if (header != null && header.regionMatches(true, 0, BEARER, 0, BEARER.length())) {
        sources
            .ofToken(header.substring(BEARER.length()).strip())
            .ifPresent(
                source ->
                    SecurityContextHolder.getContext()
                        .setAuthentication(
                            UsernamePasswordAuthenticationToken.authenticated(
                                source, null, List.of())));
      }
      chain.doFilter(request, response);
    }
  }
}
