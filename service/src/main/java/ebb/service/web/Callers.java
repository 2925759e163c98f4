package ebb.service.web;

import ebb.core.operator.Caller;
import java.security.Principal;
import java.util.List;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.AuthenticatedPrincipal;
import org.springframework.security.core.Authentication;

/** The operator at work, as the web layer hands it from hand to hand. */
public final class Callers {
  private record Known(Caller caller) implements AuthenticatedPrincipal {
    @Override
    public String getName() {
      return caller.name();
    }
  }

  public static Authentication authentication(Caller caller) {
    return UsernamePasswordAuthenticationToken.authenticated(new Known(caller), null, List.of());
  }

  /**
   * @throws IllegalStateException if nobody is signed in: the endpoint is open, and should not ask
   */
  public static Caller of(Principal principal) {
    if (principal instanceof Authentication authentication
        && authentication.getPrincipal() instanceof Known(var caller)) {
      return caller;
    }
    throw new IllegalStateException("Nobody is signed in");
  }

  public static boolean isKnown(Principal principal) {
    return principal instanceof Authentication authentication
        && authentication.getPrincipal() instanceof Known;
  }

  private Callers() {}
}
