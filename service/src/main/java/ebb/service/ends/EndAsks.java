package ebb.service.ends;

import ebb.core.imports.Source;
import ebb.core.notice.Ask;
import ebb.core.notice.Notice;
import ebb.core.person.Attributes;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.service.changes.Releases;
import ebb.service.notices.Asking;
import ebb.service.people.HandEdits;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.notices.Notices;
import ebb.store.people.StoredPerson;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.util.EnumSet;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.web.util.HtmlUtils;

/**
 * Asks a sponsor whether a last day is to be later. Where a source has the say, an extension holds
 * up to its own last day only, so that it leaves nothing behind; whoever is extended keeps what
 * they have.
 */
@Component
final class EndAsks implements Asking {
  private static final String TITLE = "Is this still needed?";
  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("d MMMM uuuu", Locale.ENGLISH);

  private final Database database;
  private final BusinessClock clock;
  private final Notices notices;
  private final HandEdits edits;
  private final Releases releases;
  private final Journal journal;
  private final int longest;

  EndAsks(
      Database database,
      BusinessClock clock,
      Notices notices,
      HandEdits edits,
      Releases releases,
      Journal journal,
      @Value("${ebb.longest-extension-days}") int longest) {
    this.database = database;
    this.clock = clock;
    this.notices = notices;
    this.edits = edits;
    this.releases = releases;
    this.journal = journal;
    this.longest = longest;
  }

  @Override
  public Set<Notice.Kind> kinds() {
    return EnumSet.of(Notice.Kind.ENDING);
  }

  @Override
  public String letter(Notice notice, StoredPerson person, String link) {
    return """
        %s

        You answer for %s. From the day after, their accounts are suspended.

        If they go on, say until when; one answer is enough. The link works once, and for seven days:
        %s

        If they do not go on, there is nothing to do.
        """
        .formatted(notice.subject(), person.displayName(), link);
  }

  @Override
  public Page show(Ask ask, StoredPerson person) {
    return Page.ok(TITLE, form(person, null));
  }

  @Override
  public Page answer(Ask ask, StoredPerson person, Map<String, String> answers) {
    if (answers.containsKey("ends")) {
      return use(ask) ? ends(ask, person) : OVER;
    }
    var until = day(answers.get("until"));
    var amiss = amiss(person, until);
    if (amiss.isPresent()) {
      database.writeAll(session -> notices.countTry(session, ask.tokenHash()));
      return again(person, amiss.get());
    }
    return use(ask) ? extend(ask, person, until.get()) : OVER;
  }

  private boolean use(Ask ask) {
    return database.write(session -> notices.use(session, ask.tokenHash(), clock.instant()));
  }

  private Page ends(Ask ask, StoredPerson person) {
    database.writeAll(
        session ->
            journal.write(session, clock.instant(), Deed.of(by(ask), "let it end", ask.person())));
    return Page.ok(
        "It ends",
        "<p>%s's last day stays %s.</p>".formatted(name(person), DAY.format(lastDay(person))));
  }

  private Page extend(Ask ask, StoredPerson person, LocalDate until) {
    try {
      var set =
          edits.edit(
              ask.person(),
              Map.of(Attributes.END_DATE, until.toString()),
              isSetByHand(person) ? null : until,
              null,
              by(ask),
              _ -> {});
      releases.release(set.id(), null, by(ask), null);
    } catch (Refusal e) {
      database.writeAll(session -> notices.reopen(session, ask.tokenHash()));
      return again(
          person,
          e.problems().stream()
              .map(Problem::what)
              .collect(Collectors.joining(" ", "", " Ask your administrator.")));
    }
    return Page.ok(
        "It goes on",
        "<p>%s's last day is now %s. They keep what they have.</p>"
            .formatted(name(person), DAY.format(until)));
  }

  /** Then there is no source that would have the say again, and no last day left. */
  private static boolean isSetByHand(StoredPerson person) {
    var held = person.person().attributes().get(Attributes.END_DATE);
    return held == null || held.source().equals(Source.HAND);
  }

  private static String by(Ask ask) {
    return "ask " + ask.notice();
  }

  private Optional<String> amiss(StoredPerson person, Optional<LocalDate> until) {
    if (until.isEmpty()) {
      return Optional.of("Choose a day.");
    }
    if (until.get().isBefore(clock.today()) || !until.get().isAfter(lastDay(person))) {
      return Optional.of("Choose a day after %s.".formatted(DAY.format(lastDay(person))));
    }
    return until.get().isAfter(latest(person))
        ? Optional.of(
            "Choose a day up to %s; nobody is extended by more than %d days at once."
                .formatted(DAY.format(latest(person)), longest))
        : Optional.empty();
  }

  private static Optional<LocalDate> day(String text) {
    try {
      return Optional.ofNullable(text).filter(one -> !one.isBlank()).map(LocalDate::parse);
    } catch (DateTimeParseException _) {
      return Optional.empty();
    }
  }

  /** Today for somebody whose end was taken away since: there is nothing to be extended then. */
  private LocalDate lastDay(StoredPerson person) {
    return person.person().date(Attributes.END_DATE).orElse(clock.today());
  }

  private LocalDate latest(StoredPerson person) {
    return lastDay(person).plusDays(longest);
  }

  private Page again(StoredPerson person, String why) {
    return new Page(HttpStatus.UNPROCESSABLE_CONTENT, TITLE, form(person, why));
  }

  private String form(StoredPerson person, String why) {
    return """
        <p><strong>%s</strong>%s</p><p>Last day: %s. From the day after, the accounts are suspended.</p>%s
        <form method="post"><label for="until">They go on until, that day included</label>
        <input id="until" name="until" type="date" min="%s" max="%s">
        <button>They go on</button> <button name="ends" value="yes" formnovalidate>Let it end</button></form>"""
        .formatted(
            name(person),
            person
                .person()
                .get(Attributes.DEPARTMENT)
                .map(unit -> ", " + HtmlUtils.htmlEscape(unit))
                .orElse(""),
            DAY.format(lastDay(person)),
            why == null
                ? ""
                : "<p class=\"why\" role=\"alert\">" + HtmlUtils.htmlEscape(why) + "</p>",
            lastDay(person).plusDays(1),
            latest(person));
  }

  private static String name(StoredPerson person) {
    return HtmlUtils.htmlEscape(person.displayName());
  }
}
