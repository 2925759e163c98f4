package ebb.service.operators;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.filter.OncePerRequestFilter;

/** Tells from a bearer token (RFC 6750) which operator asks. */
final class TokenFilter extends OncePerRequestFilter {
  private static final String BEARER = "Bearer ";

  private final Tokens tokens;

  TokenFilter(Tokens tokens) {
    this.tokens = tokens;
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    var header = request.getHeader("Authorization");
    if (header != null && header.startsWith(BEARER)) {
      tokens
          .operator(header.substring(BEARER.length()).strip())
          .ifPresent(
              operator ->
                  SecurityContextHolder.getContext()
                      .setAuthentication(
                          UsernamePasswordAuthenticationToken.authenticated(
                              operator, null, List.of())));
    }
    chain.doFilter(request, response);
  }

  /** Progress streams are answered on another thread; the first look has settled who asks. */
  @Override
  protected boolean shouldNotFilterAsyncDispatch() {
    return false;
  }
}
