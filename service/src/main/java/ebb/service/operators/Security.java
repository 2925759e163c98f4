package ebb.service.operators;

import ebb.core.problem.Problem;
import ebb.service.web.ProblemAnswers;
import jakarta.servlet.http.HttpServletRequest;
import java.util.Set;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.annotation.web.configurers.HeadersConfigurer.FrameOptionsConfig;
import org.springframework.security.config.http.SessionCreationPolicy;
import org.springframework.security.core.userdetails.UserDetailsService;
import org.springframework.security.core.userdetails.UsernameNotFoundException;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.UsernamePasswordAuthenticationFilter;
import org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter.ReferrerPolicy;

/**
 * The interface needs somebody signed in, by token or by the console's cookie. What comes with the
 * cookie must also carry the mark against forgery, which only our own pages can read.
 */
@Configuration
class Security {
  private static final String SIGN_IN = "/api/v1/session";
  private static final String SIGN_IN_BY_LINK = "/api/v1/session/link";
  private static final Set<String> READS = Set.of("GET", "HEAD", "OPTIONS", "TRACE");

  private static final Problem SIGN_IN_NEEDED =
      new Problem(
          "sign-in-needed",
          "Nobody is signed in.",
          "The token is missing, unknown, over or revoked; or the sign-in is over.",
          "Sign in again; programs send the header Authorization: Bearer TOKEN.",
          null);

  private static final Problem FORGED =
      new Problem(
          "mark-missing",
          "The request does not come from a page of Ebb's.",
          "It lacks the header X-XSRF-TOKEN with the value of the cookie XSRF-TOKEN.",
          "Load the page again.",
          null);

  @Bean
  SecurityFilterChain filters(
      HttpSecurity http, IssuedTokens tokens, SignInDesk desk, SentTwice sentTwice)
      throws Exception {
    return http.csrf(csrf -> csrf.spa().requireCsrfProtectionMatcher(Security::canBeForged))
        .sessionManagement(
            session -> session.sessionCreationPolicy(SessionCreationPolicy.STATELESS))
        .requestCache(cache -> cache.disable())
        .authorizeHttpRequests(
            requests ->
                requests
                    .requestMatchers(SIGN_IN, SIGN_IN_BY_LINK)
                    .permitAll()
                    .requestMatchers("/api/**", "/actuator/prometheus")
                    .authenticated()
                    .requestMatchers("/actuator/health", "/actuator/health/**")
                    .permitAll()
                    .requestMatchers("/actuator/**")
                    .denyAll()
                    .anyRequest()
                    .permitAll())
        .exceptionHandling(
            handling ->
                handling
                    .authenticationEntryPoint(
                        (_, response, _) -> {
                          response.setHeader(HttpHeaders.WWW_AUTHENTICATE, "Bearer");
                          ProblemAnswers.write(response, HttpStatus.UNAUTHORIZED, SIGN_IN_NEEDED);
                        })
                    .accessDeniedHandler(
                        (_, response, _) ->
                            ProblemAnswers.write(response, HttpStatus.FORBIDDEN, FORGED)))
        .headers(
            headers ->
                headers
                    .frameOptions(FrameOptionsConfig::deny)
                    .referrerPolicy(policy -> policy.policy(ReferrerPolicy.SAME_ORIGIN)))
        .addFilterBefore(new CallerFilter(tokens, desk), UsernamePasswordAuthenticationFilter.class)
        .addFilterAfter(sentTwice, UsernamePasswordAuthenticationFilter.class)
        .build();
  }

  /**
   * What a browser sends on its own account: with its cookie, or to sign somebody in. A request
   * that carries a token, or nothing at all, borrows nobody's authority; nor does the answer to an
   * ask, whose address nobody else knows, also where an operator gives it.
   */
  private static boolean canBeForged(HttpServletRequest request) {
    return !READS.contains(request.getMethod())
        && request.getHeader(HttpHeaders.AUTHORIZATION) == null
        && !request.getRequestURI().startsWith("/ask/")
        && (Cookies.of(request, Cookies.SIGN_IN).isPresent()
            || Set.of(SIGN_IN, SIGN_IN_BY_LINK).contains(request.getRequestURI()));
  }

  /** Keeps Boot from making a user with a password of its own. */
  @Bean
  UserDetailsService nobodyByPassword() {
    return name -> {
      throw new UsernameNotFoundException(name);
    };
  }
}
