package ebb.service.operators;

import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Duration;
import java.util.Optional;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ResponseCookie;
import org.springframework.web.util.WebUtils;

/** What the console's browser keeps: out of reach of scripts, and sent from our own pages only. */
final class Cookies {
  static final String SIGN_IN = "ebb-sign-in";

  /** That somebody has signed in from this browser before. */
  static final String BROWSER = "ebb-browser";

  private static final Duration BROWSER_KNOWN = Duration.ofDays(180);

  static Optional<String> of(HttpServletRequest request, String name) {
    return Optional.ofNullable(WebUtils.getCookie(request, name)).map(Cookie::getValue);
  }

  static void signedIn(
      HttpServletRequest request, HttpServletResponse response, SignInDesk.Signed signed) {
    set(request, response, SIGN_IN, signed.text(), null);
    set(request, response, BROWSER, signed.browser(), BROWSER_KNOWN);
  }

  static void signedOut(HttpServletRequest request, HttpServletResponse response) {
    set(request, response, SIGN_IN, "", Duration.ZERO);
  }

  private static void set(
      HttpServletRequest request,
      HttpServletResponse response,
      String name,
      String value,
      Duration age) {
    var cookie =
        ResponseCookie.from(name, value)
            .httpOnly(true)
            .secure(request.isSecure())
            .sameSite("Strict")
            .path("/");
    if (age != null) {
      cookie.maxAge(age);
    }
    response.addHeader(HttpHeaders.SET_COOKIE, cookie.build().toString());
  }

  private Cookies() {}
}
