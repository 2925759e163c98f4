package ebb.service.operators;

import ebb.core.operator.Caller;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.SecretBox;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.operators.Operator;
import ebb.store.operators.Operators;
import ebb.store.operators.SignIns;
import ebb.store.operators.SignIns.SignIn;
import java.time.Duration;
import java.time.Instant;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.hibernate.StatelessSession;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/** Signs operators in to the console and out again, and lets them look after their sign-in. */
@Component
final class SignInDesk {
  /** How exactly it is known when a sign-in was last used: not every request writes. */
  private static final Duration BETWEEN_NOTES = Duration.ofMinutes(1);

  private final Database database;
  private final Operators operators;
  private final SignIns signIns;
  private final Passwords passwords;
  private final SecretBox secrets;
  private final Journal journal;
  private final BusinessClock clock;
  private final Duration idle;

  /** A sign-in that may rest for less than a minute must be noted more often than that. */
  private final Duration betweenNotes;

  private final Duration longest;
  private final Attempts attempts = new Attempts();

  SignInDesk(
      Database database,
      Operators operators,
      SignIns signIns,
      Passwords passwords,
      SecretBox secrets,
      Journal journal,
      BusinessClock clock,
      @Value("${ebb.sign-in-idle}") Duration idle,
      @Value("${ebb.sign-in-longest}") Duration longest) {
    this.database = database;
    this.operators = operators;
    this.signIns = signIns;
    this.passwords = passwords;
    this.secrets = secrets;
    this.journal = journal;
    this.clock = clock;
    this.idle = idle;
    this.betweenNotes = Collections.min(List.of(BETWEEN_NOTES, idle.dividedBy(4)));
    this.longest = longest;
  }

  /**
   * Somebody just signed in.
   *
   * @param text for the browser to keep
   * @param browser marks the browser as one this operator has used
   */
  record Signed(Caller caller, String text, String browser) {}

  /**
   * @param code of the second factor; null where none was given
   * @param browser the mark of the browser; null for one never signed in with
   * @throws Refusal if anything is wrong; which of name and password is not said
   */
  Signed signIn(String name, String password, String code, String browser) {
    var now = Instant.now();
    var who = isMarkOf(browser, name) ? "browser " + SecretBox.hash(browser) : "name " + name;
    attempts.check(who, now);
    var operator =
        database.read(session -> operators.get(session, name)).filter(one -> one.endedAt() == null);
    var matches = passwords.matches(password, operator.map(Operator::passwordHash).orElse(null));
    if (!matches) {
      attempts.failed(who, now);
      throw wrong();
    }
    var step = secondFactor(operator.orElseThrow(), code, who, now);
    attempts.succeeded(who);
    return database.write(
        session -> {
          var known = operator.get();
          if (step.isPresent()) {
            write(
                session,
                known.withSecondFactor(
                    known.secondFactor(), known.secondFactorAsked(), step.getAsLong()));
          }
          journal.write(session, clock.instant(), Deed.of(name, "signed in"));
          return signed(session, known, now);
        });
  }

  private OptionalLong secondFactor(Operator operator, String code, String who, Instant now) {
    if (operator.secondFactor() == null) {
      return OptionalLong.empty();
    }
    if (code == null || code.isBlank()) {
      throw new Refusal(
          Refusal.Kind.UNKNOWN_CALLER,
          new Problem(
              "code-needed",
              "A code of your second factor is needed too.",
              "You have turned it on for your sign-in.",
              "Type the six digits your authenticator shows.",
              Where.field("code")));
    }
    var step =
        SecondFactor.step(
            secrets.open(operator.secondFactor()), code.strip(), now, operator.lastCode());
    if (step.isEmpty()) {
      attempts.failed(who, now);
      throw codeWrong(Refusal.Kind.UNKNOWN_CALLER);
    }
    return step;
  }

  /** Makes a link with which an operator chooses a password; earlier ones are good no more. */
  String link(StatelessSession session, String operator, Instant expiresAt) {
    var text = SecretBox.randomText();
    operators.addLink(session, operator, SecretBox.hash(text), expiresAt);
    return text;
  }

  /** Uses a one-time link up: the password is chosen, and the second factor begins anew. */
  Signed open(String link, String password) {
    var now = Instant.now();
    var hash = SecretBox.hash(link);
    var name =
        database
            .read(session -> operators.linked(session, hash, now))
            .orElseThrow(SignInDesk::over);
    passwords.check(password, name);
    var encoded = passwords.hash(password);
    return database.write(
        session -> {
          if (!operators.useLink(session, hash, now)) {
            throw over();
          }
          var operator = operators.get(session, name).orElseThrow(SignInDesk::over);
          write(session, operator.withPassword(encoded).withSecondFactor(null, null, null));
          signIns.endAll(session, name, null);
          journal.write(session, clock.instant(), Deed.of(name, "chose a password by a link"));
          return signed(session, operators.get(session, name).orElseThrow(), now);
        });
  }

  private Signed signed(StatelessSession session, Operator operator, Instant now) {
    var text = SecretBox.randomText();
    signIns.dropOver(session, now);
    signIns.add(session, SecretBox.hash(text), operator.name(), now, now.plus(longest));
    return new Signed(operator.caller(null), text, secrets.seal(operator.name()));
  }

  /** Whose sign-in it is; empty if it is over. */
  Optional<Caller> caller(String text) {
    var now = Instant.now();
    var signIn = database.read(session -> signIns.get(session, SecretBox.hash(text)));
    if (signIn.filter(one -> isGood(one, now)).isEmpty()) {
      return Optional.empty();
    }
    if (signIn.get().usedAt().plus(betweenNotes).isBefore(now)) {
      database.writeAll(session -> signIns.used(session, signIn.get().hash(), now));
    }
    return database
        .read(session -> operators.get(session, signIn.get().operator()))
        .filter(one -> one.endedAt() == null)
        .map(one -> one.caller(null));
  }

  private boolean isGood(SignIn signIn, Instant now) {
    return now.isBefore(signIn.expiresAt()) && now.isBefore(signIn.usedAt().plus(idle));
  }

  void signOut(String text) {
    database.writeAll(session -> signIns.end(session, SecretBox.hash(text)));
  }

  /** Changes a password; all other sign-ins end. */
  void change(String name, String now, String next, String kept) {
    var who = "own " + name;
    attempts.check(who, Instant.now());
    var operator = get(name);
    if (!passwords.matches(now, operator.passwordHash())) {
      attempts.failed(who, Instant.now());
      throw Refusal.invalid(
          new Problem(
              "password-wrong",
              "The password you have now is another one.",
              "It is asked for so that nobody changes it at an unwatched desk.",
              "Type it again; an administrator can send you a new link.",
              Where.field("now")));
    }
    passwords.check(next, name);
    var encoded = passwords.hash(next);
    database.writeAll(
        session -> {
          write(session, operator.withPassword(encoded));
          signIns.endAll(session, name, kept == null ? null : SecretBox.hash(kept));
          journal.write(session, clock.instant(), Deed.of(name, "changed the password"));
        });
  }

  /** A new secret, good once it is confirmed with a code. */
  String askSecondFactor(String name) {
    var secret = SecondFactor.newSecret();
    var operator = get(name);
    database.writeAll(
        session ->
            write(
                session,
                operator.withSecondFactor(
                    operator.secondFactor(), secrets.seal(secret), operator.lastCode())));
    return secret;
  }

  void confirmSecondFactor(String name, String code) {
    var operator = get(name);
    if (operator.secondFactorAsked() == null) {
      throw Refusal.conflict(
          new Problem(
              "second-factor-not-begun",
              "There is no second factor to confirm.",
              "None was begun, or it was confirmed already.",
              "Begin it anew.",
              null));
    }
    var secret = secrets.open(operator.secondFactorAsked());
    var step = SecondFactor.step(secret, String.valueOf(code).strip(), Instant.now(), null);
    if (step.isEmpty()) {
      throw codeWrong(Refusal.Kind.INVALID);
    }
    database.writeAll(
        session -> {
          write(
              session,
              operator.withSecondFactor(operator.secondFactorAsked(), null, step.getAsLong()));
          journal.write(session, clock.instant(), Deed.of(name, "turned the second factor on"));
        });
  }

  /** Turned off only with a code, so that nobody does it at an unwatched desk. */
  void endSecondFactor(String name, String code) {
    var operator = get(name);
    if (operator.secondFactor() == null) {
      return;
    }
    var who = "own " + name;
    attempts.check(who, Instant.now());
    var step =
        SecondFactor.step(
            secrets.open(operator.secondFactor()),
            String.valueOf(code).strip(),
            Instant.now(),
            operator.lastCode());
    if (step.isEmpty()) {
      attempts.failed(who, Instant.now());
      throw codeWrong(Refusal.Kind.INVALID);
    }
    database.writeAll(
        session -> {
          write(session, operator.withSecondFactor(null, null, null));
          journal.write(session, clock.instant(), Deed.of(name, "turned the second factor off"));
        });
  }

  boolean hasSecondFactor(String name) {
    return get(name).secondFactor() != null;
  }

  private Operator get(String name) {
    return database
        .read(session -> operators.get(session, name))
        .orElseThrow(() -> Refusal.notFound("operator", name, "See the list of operators."));
  }

  private void write(StatelessSession session, Operator operator) {
    if (!operators.put(session, operator)) {
      throw new Refusal(
          Refusal.Kind.STALE,
          new Problem(
              "edited-meanwhile",
              "%s was edited at this moment.".formatted(operator.name()),
              "Two edits met.",
              "Try again.",
              null));
    }
  }

  /** A mark that does not open was made under another key, or by hand: it says nothing. */
  private boolean isMarkOf(String browser, String name) {
    try {
      return browser != null && secrets.open(browser).equals(name);
    } catch (RuntimeException _) {
      return false;
    }
  }

  private static Refusal wrong() {
    return new Refusal(
        Refusal.Kind.UNKNOWN_CALLER,
        new Problem(
            "sign-in-wrong",
            "Name and password do not belong together.",
            "One of them is mistyped, or the operator may work no more.",
            "Type them again; an administrator can send you a new link.",
            Where.field("password")));
  }

  private static Refusal codeWrong(Refusal.Kind kind) {
    return new Refusal(
        kind,
        new Problem(
            "code-wrong",
            "The code is not the one expected now.",
            "Each code is good once, for about a minute.",
            "Wait for the next one; check that the clock of your authenticator is right.",
            Where.field("code")));
  }

  private static Refusal over() {
    return new Refusal(
        Refusal.Kind.UNKNOWN_CALLER,
        new Problem(
            "link-over",
            "This link is good no more.",
            "Links are good once, for a day, and only the newest.",
            "Ask an administrator for a new one; whoever runs Ebb can start it with"
                + " --ebb.link-for=NAME.",
            null));
  }
}
