package ebb.service.operators;

import ebb.api.CodeRequest;
import ebb.api.LinkRequest;
import ebb.api.PasswordRequest;
import ebb.api.SecondFactorView;
import ebb.api.SessionView;
import ebb.api.SignInRequest;
import ebb.core.operator.Act;
import ebb.core.operator.Caller;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Open;
import ebb.service.web.Requests;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.security.Principal;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Signing in to the console and out again, and one's own password and second factor. */
@RestController
@RequestMapping("/api/v1/session")
class SessionController {
  private final SignInDesk desk;
  private final OperatorBook book;

  SessionController(SignInDesk desk, OperatorBook book) {
    this.desk = desk;
    this.book = book;
  }

  /** Who is signed in; nobody is an answer too. */
  @Open
  @GetMapping
  SessionView show(Principal principal) {
    return Callers.isKnown(principal)
        ? view(Callers.of(principal))
        : new SessionView(null, null, Set.of(), Set.of(), Set.of(), false, null);
  }

  @Open
  @PostMapping
  SessionView signIn(
      @RequestBody SignInRequest request, HttpServletRequest from, HttpServletResponse response) {
    var signed =
        desk.signIn(
            Requests.required(request.name(), "name"),
            Requests.required(request.password(), "password"),
            request.code(),
            Cookies.of(from, Cookies.BROWSER).orElse(null));
    Cookies.signedIn(from, response, signed);
    return view(signed.caller());
  }

  /** Chooses a password by a one-time link, and signs in. */
  @Open
  @PostMapping("/link")
  SessionView open(
      @RequestBody LinkRequest request, HttpServletRequest from, HttpServletResponse response) {
    var signed =
        desk.open(
            Requests.required(request.link(), "link"),
            Requests.required(request.password(), "password"));
    Cookies.signedIn(from, response, signed);
    return view(signed.caller());
  }

  @Open
  @DeleteMapping
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void signOut(HttpServletRequest from, HttpServletResponse response) {
    Cookies.of(from, Cookies.SIGN_IN).ifPresent(desk::signOut);
    Cookies.signedOut(from, response);
  }

  @Allowed(Act.OWN)
  @PutMapping("/password")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void password(
      @RequestBody PasswordRequest request, HttpServletRequest from, Principal principal) {
    desk.change(
        principal.getName(),
        Requests.required(request.now(), "now"),
        Requests.required(request.next(), "next"),
        Cookies.of(from, Cookies.SIGN_IN).orElse(null));
  }

  /** Begins a second factor; it counts once its first code is confirmed. */
  @Allowed(Act.OWN)
  @PostMapping("/second-factor")
  SecondFactorView begin(Principal principal) {
    var secret = desk.askSecondFactor(principal.getName());
    return new SecondFactorView(secret, SecondFactor.address(secret, principal.getName()));
  }

  @Allowed(Act.OWN)
  @PutMapping("/second-factor")
  SessionView confirm(@RequestBody CodeRequest request, Principal principal) {
    desk.confirmSecondFactor(principal.getName(), Requests.required(request.code(), "code"));
    return view(Callers.of(principal));
  }

  @Allowed(Act.OWN)
  @PostMapping("/second-factor/end")
  SessionView end(@RequestBody CodeRequest request, Principal principal) {
    desk.endSecondFactor(principal.getName(), Requests.required(request.code(), "code"));
    return view(Callers.of(principal));
  }

  private SessionView view(Caller caller) {
    return new SessionView(
        caller.name(),
        caller.role().word(),
        new TreeSet<>(caller.reach().units()),
        new TreeSet<>(caller.reach().kinds()),
        caller.acts().stream().map(Act::word).collect(Collectors.toCollection(TreeSet::new)),
        desk.hasSecondFactor(caller.name()),
        caller.may(Act.OPERATORS) ? book.warning().orElse(null) : null);
  }
}
