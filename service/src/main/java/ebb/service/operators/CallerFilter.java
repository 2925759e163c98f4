package ebb.service.operators;

import ebb.core.operator.Caller;
import ebb.service.web.Callers;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.Optional;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Tells from a bearer token (RFC 6750) or the console's cookie which operator asks. Where there is
 * a token the cookie counts for nothing: a request with a token needs no mark against forgery.
 */
final class CallerFilter extends OncePerRequestFilter {
  private static final String BEARER = "Bearer ";

  private final IssuedTokens tokens;
  private final SignInDesk desk;

  CallerFilter(IssuedTokens tokens, SignInDesk desk) {
    this.tokens = tokens;
    this.desk = desk;
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    caller(request)
        .ifPresent(
            caller ->
                SecurityContextHolder.getContext()
                    .setAuthentication(Callers.authentication(caller)));
    chain.doFilter(request, response);
  }

  private Optional<Caller> caller(HttpServletRequest request) {
    var header = request.getHeader("Authorization");
    if (header != null) {
      return header.startsWith(BEARER)
          ? tokens.caller(header.substring(BEARER.length()).strip())
          : Optional.empty();
    }
    return Cookies.of(request, Cookies.SIGN_IN).flatMap(desk::caller);
  }

  /** Progress streams are answered on another thread; the first look has settled who asks. */
  @Override
  protected boolean shouldNotFilterAsyncDispatch() {
    return false;
  }
}
