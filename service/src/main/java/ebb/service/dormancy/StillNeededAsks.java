package ebb.service.dormancy;

import ebb.core.dormancy.StillNeeded;
import ebb.core.dormancy.StillNeeded.Answer;
import ebb.core.notice.Ask;
import ebb.core.notice.Notice;
import ebb.service.notices.Asking;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.applications.AccountUses;
import ebb.store.applications.StillNeededs;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.notices.Notices;
import ebb.store.people.StoredPerson;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.web.util.HtmlUtils;

/**
 * Asks whether accounts are still needed that nobody signs in to: one page for all of a person's
 * about which is asked.
 */
@Component
final class StillNeededAsks implements Asking {
  /** For which days an answer may be asked. */
  static final int LONGEST = 90;

  private static final String TITLE = "Is this still needed?";
  private static final String FIELD = "account-";
  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("d MMMM uuuu", Locale.ENGLISH);

  private final Database database;
  private final BusinessClock clock;
  private final Notices notices;
  private final StillNeededs asked;
  private final AccountUses uses;
  private final Journal journal;

  StillNeededAsks(
      Database database,
      BusinessClock clock,
      Notices notices,
      StillNeededs asked,
      AccountUses uses,
      Journal journal) {
    this.database = database;
    this.clock = clock;
    this.notices = notices;
    this.asked = asked;
    this.uses = uses;
    this.journal = journal;
  }

  @Override
  public Set<Notice.Kind> kinds() {
    return EnumSet.of(Notice.Kind.STILL_NEEDED);
  }

  @Override
  public Duration openFor() {
    return Duration.ofDays(LONGEST);
  }

  @Override
  public String letter(Notice notice, StoredPerson person, String link) {
    return """
        %s

        Nobody has signed in there as %s for a long time. Say whether it is still needed; the link works once:
        %s

        What nobody answers for is switched off on the day after. Nothing in it is lost by that.
        """
        .formatted(notice.subject(), person.displayName(), link);
  }

  @Override
  public Page show(Ask ask, StoredPerson person) {
    var open = database.read(session -> asked.open(session, ask.person()));
    return open.isEmpty() ? OVER : Page.ok(TITLE, form(person, open, null));
  }

  @Override
  public Page answer(Ask ask, StoredPerson person, Map<String, String> answers) {
    var open = database.read(session -> asked.open(session, ask.person()));
    if (open.isEmpty()) {
      return OVER;
    }
    if (!open.stream().allMatch(one -> answers.containsKey(FIELD + one.account()))) {
      database.writeAll(session -> notices.countTry(session, ask.tokenHash()));
      return new Page(
          HttpStatus.UNPROCESSABLE_CONTENT,
          TITLE,
          form(person, open, "Say of each whether it is needed."));
    }
    return database.write(session -> take(session, ask, open, answers))
        ? Page.ok("Thank you", "<ul>%s</ul>".formatted(outcome(open, answers)))
        : OVER;
  }

  private boolean take(
      StatelessSession session, Ask ask, List<StillNeeded> open, Map<String, String> answers) {
    var now = clock.instant();
    if (!notices.use(session, ask.tokenHash(), now)) {
      return false;
    }
    for (var one : open) {
      var isNeeded = isNeeded(one, answers);
      asked.put(session, one.answered(isNeeded ? Answer.NEEDED : Answer.NOT_NEEDED, now));
      journal.write(
          session,
          now,
          Deed.of(
              "ask " + ask.notice(),
              "said that the account in %s is %s"
                  .formatted(one.application(), isNeeded ? "still needed" : "not needed any more"),
              one.person()));
    }
    return true;
  }

  private static boolean isNeeded(StillNeeded one, Map<String, String> answers) {
    return "yes".equals(answers.get(FIELD + one.account()));
  }

  private static String outcome(List<StillNeeded> open, Map<String, String> answers) {
    return open.stream()
        .map(
            one ->
                "<li><strong>%s</strong> %s</li>"
                    .formatted(
                        HtmlUtils.htmlEscape(one.application()),
                        isNeeded(one, answers)
                            ? "stays as it is."
                            : "is switched off; nothing in it is lost."))
        .collect(Collectors.joining());
  }

  private String form(StoredPerson person, List<StillNeeded> open, String why) {
    var signedIn =
        database.read(
            session -> uses.signedInAt(session, open.stream().map(StillNeeded::account).toList()));
    return """
        <p>Accounts of <strong>%s</strong> that nobody signs in to. What is not answered is switched off; nothing in it is lost.</p>%s
        <form method="post">%s<button>Send the answer</button></form>"""
        .formatted(
            HtmlUtils.htmlEscape(person.displayName()),
            why == null ? "" : "<p class=\"why\" role=\"alert\">%s</p>".formatted(why),
            open.stream()
                .map(one -> field(one, signedIn.get(one.account())))
                .collect(Collectors.joining()));
  }

  private static String field(StillNeeded one, Instant signedIn) {
    return """
        <fieldset><legend>%1$s</legend><p>Last sign-in: %2$s. Answer by %3$s.</p>
        <label class="tick"><input type="radio" name="%4$s" value="yes" required> Still needed</label>
        <label class="tick"><input type="radio" name="%4$s" value="no"> Not needed any more</label></fieldset>"""
        .formatted(
            HtmlUtils.htmlEscape(one.application()),
            signedIn == null ? "never" : DAY.format(signedIn.atOffset(ZoneOffset.UTC)),
            DAY.format(one.until()),
            FIELD + one.account());
  }
}
