package ebb.service.notices;

import ebb.core.application.Instruction;
import ebb.core.application.Outcome;
import ebb.core.application.Secret;
import ebb.core.notice.Ask;
import ebb.core.notice.Notice;
import ebb.core.person.PersonId;
import ebb.service.connections.Connections;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.notices.Notices;
import ebb.store.people.StoredPerson;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.web.util.HtmlUtils;

/** Asks a person to choose a password. It goes straight to the applications and is kept nowhere. */
@Component
final class PasswordAsks implements Asking {
  private static final int SHORTEST = 12;
  private static final String TITLE = "Choose a password";

  private final Database database;
  private final BusinessClock clock;
  private final Connections connections;
  private final Notices notices;
  private final Accounts accounts;
  private final Journal journal;

  PasswordAsks(
      Database database,
      BusinessClock clock,
      Connections connections,
      Notices notices,
      Accounts accounts,
      Journal journal) {
    this.database = database;
    this.clock = clock;
    this.connections = connections;
    this.notices = notices;
    this.accounts = accounts;
    this.journal = journal;
  }

  @Override
  public Set<Notice.Kind> kinds() {
    return EnumSet.of(Notice.Kind.WELCOME, Notice.Kind.RESET);
  }

  @Override
  public String letter(Notice notice, StoredPerson person, String link) {
    return """
        %s

        This is about the accounts of %s. The sign-in name is: %s

        Choose a password here. The link works once, and for seven days:
        %s

        If this reached you by mistake, do nothing and tell your administrator.
        """
        .formatted(
            notice.kind() == Notice.Kind.WELCOME
                ? "Welcome. The accounts are ready."
                : "The password was reset. The old one no longer works.",
            person.displayName(),
            person.login(),
            link);
  }

  @Override
  public Page show(Ask ask, StoredPerson person) {
    return Page.ok(TITLE, form(person, null));
  }

  @Override
  public Page answer(Ask ask, StoredPerson person, Map<String, String> answers) {
    var password = answers.getOrDefault("password", "");
    var weak = weakness(password, answers.getOrDefault("again", ""), person);
    if (weak.isPresent()) {
      database.writeAll(session -> notices.countTry(session, ask.tokenHash()));
      return new Page(HttpStatus.UNPROCESSABLE_CONTENT, TITLE, form(person, weak.get()));
    }
    var isOurs = database.write(session -> notices.use(session, ask.tokenHash(), clock.instant()));
    return isOurs ? set(ask, person, new Secret(password)) : OVER;
  }

  private static String form(StoredPerson person, String why) {
    return """
        <p>For %s. Your sign-in name is <strong>%s</strong>.</p>%s
        <form method="post"><label for="password">Password, at least %d characters</label>
        <input id="password" name="password" type="password" autocomplete="new-password" required minlength="%d">
        <label for="again">The same again</label>
        <input id="again" name="again" type="password" autocomplete="new-password" required>
        <button>Set my password</button></form>"""
        .formatted(
            HtmlUtils.htmlEscape(person.displayName()),
            HtmlUtils.htmlEscape(person.login()),
            why == null
                ? ""
                : "<p class=\"why\" role=\"alert\">" + HtmlUtils.htmlEscape(why) + "</p>",
            SHORTEST,
            SHORTEST);
  }

  private Page set(Ask ask, StoredPerson person, Secret password) {
    var set = new ArrayList<String>();
    var open = new ArrayList<String>();
    for (var account : accountsOf(ask.person())) {
      var outcome =
          connections
              .to(account.application())
              .apply(new Instruction.SetPassword(account.observed().id(), password));
      (outcome instanceof Outcome.Accepted ? set : open).add(account.application());
    }
    database.writeAll(
        session -> {
          if (!open.isEmpty()) {
            notices.reopen(session, ask.tokenHash());
          }
          journal.write(
              session,
              clock.instant(),
              Deed.of(
                  "ask " + ask.notice(),
                  "chose a password, taken by %s; not by %s".formatted(set, open),
                  ask.person()));
        });
    return open.isEmpty() ? isSet(person, set) : notEverywhere(open);
  }

  private static Page isSet(StoredPerson person, List<String> applications) {
    return Page.ok(
        "Your password is set",
        "<p>You can sign in now as <strong>%s</strong>, in: %s.</p>"
            .formatted(
                HtmlUtils.htmlEscape(person.login()),
                HtmlUtils.htmlEscape(String.join(", ", applications))));
  }

  /** Some applications did not take it now; the ask stays open. */
  private static Page notEverywhere(List<String> open) {
    return new Page(
        HttpStatus.SERVICE_UNAVAILABLE,
        "Not everywhere yet",
        "<p>The password is not set yet in: %s. That is no fault of yours.</p><p>Open the same link again in a few minutes.</p>"
            .formatted(HtmlUtils.htmlEscape(String.join(", ", open))));
  }

  private List<Account> accountsOf(PersonId person) {
    return database
        .read(session -> accounts.of(session, List.of(person)))
        .getOrDefault(person, List.of())
        .stream()
        .filter(account -> account.level().exists())
        .toList();
  }

  private static Optional<String> weakness(String password, String again, StoredPerson person) {
    if (!password.equals(again)) {
      return Optional.of("The two entries differ.");
    }
    if (password.length() < SHORTEST) {
      return Optional.of("It must have at least %d characters.".formatted(SHORTEST));
    }
    if (person.login() != null && password.toLowerCase(Locale.ROOT).contains(person.login())) {
      return Optional.of("It must not hold the sign-in name.");
    }
    return Optional.empty();
  }
}
