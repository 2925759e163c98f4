package ebb.service.departures;

import ebb.core.departure.AccountCase.Handover;
import ebb.core.departure.Departure;
import ebb.core.handover.Sheet;
import ebb.core.notice.Ask;
import ebb.core.notice.Notice;
import ebb.service.notices.Addresses;
import ebb.service.notices.Asking;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.departures.DepartureAccount;
import ebb.store.departures.Departures;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.notices.Notices;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeFormatter;
import java.util.EnumSet;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.web.util.HtmlUtils;

/**
 * Asks whoever is to get what somebody leaves behind whether they take it. Who does not answer gets
 * it; who declines says why, and somebody else is named before anything is handed over.
 */
@Component
final class RecipientAsks implements Asking {
  private static final Duration OPEN = Duration.ofDays(30);
  private static final String TITLE = "What comes to you";
  private static final int LONGEST_REASON = 300;
  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("d MMMM uuuu", Locale.ENGLISH);

  private final Database database;
  private final BusinessClock clock;
  private final Notices notices;
  private final Departures departures;
  private final People people;
  private final Addresses addresses;
  private final Journal journal;

  RecipientAsks(
      Database database,
      BusinessClock clock,
      Notices notices,
      Departures departures,
      People people,
      Addresses addresses,
      Journal journal) {
    this.database = database;
    this.clock = clock;
    this.notices = notices;
    this.departures = departures;
    this.people = people;
    this.addresses = addresses;
    this.journal = journal;
  }

  /** Nobody is asked who cannot be reached: no handover waits for it. */
  void ask(StatelessSession session, Departure departure, Instant at) {
    if (departure.recipient() != null) {
      addresses
          .atWork(session, departure.recipient())
          .ifPresent(
              address ->
                  notices.add(
                      session,
                      departure.person(),
                      Notice.Kind.HANDOVER,
                      address,
                      "What %s leaves behind comes to you".formatted(name(session, departure)),
                      null,
                      at));
    }
  }

  private String name(StatelessSession session, Departure departure) {
    return people
        .get(session, departure.person())
        .map(StoredPerson::displayName)
        .orElse("person " + departure.person());
  }

  @Override
  public Set<Notice.Kind> kinds() {
    return EnumSet.of(Notice.Kind.HANDOVER);
  }

  @Override
  public Duration openFor() {
    return OPEN;
  }

  @Override
  public String letter(Notice notice, StoredPerson person, String link) {
    return """
        %s

        You are named to get what the accounts of %s own. Say whether you take it; the link works once:
        %s

        If you do not answer, it comes to you. If you cannot take it, say why, and somebody else is named.
        """
        .formatted(notice.subject(), person.displayName(), link);
  }

  /** The departure of which the one who was asked is still to get everything. */
  private Optional<Departure> open(StatelessSession session, Ask ask) {
    return departures.running(session, ask.person()).stream()
        .filter(departure -> departure.recipient() != null)
        .filter(
            departure ->
                addresses
                    .atWork(session, departure.recipient())
                    .equals(notices.address(session, ask.notice())))
        .filter(
            departure ->
                departures.accounts(session, departure.id()).stream()
                    .allMatch(part -> part.handover() == Handover.NONE))
        .findFirst();
  }

  @Override
  public Page show(Ask ask, StoredPerson person) {
    return database.read(
        session ->
            open(session, ask)
                .map(departure -> Page.ok(TITLE, form(session, person, departure, null)))
                .orElse(OVER));
  }

  @Override
  public Page answer(Ask ask, StoredPerson person, Map<String, String> answers) {
    var declines = "no".equals(answers.get("takes"));
    var reason = answers.getOrDefault("reason", "").strip();
    if ((declines && reason.isEmpty())
        || reason.length() > LONGEST_REASON
        || (!declines && !"yes".equals(answers.get("takes")))) {
      return again(ask, person);
    }
    return database.write(session -> take(session, ask, declines ? reason : null))
        ? Page.ok(
            "Thank you",
            declines
                ? "<p>Somebody else is named. Nothing comes to you.</p>"
                : "<p>It comes to you, and stands under the name of %s.</p>"
                    .formatted(HtmlUtils.htmlEscape(person.displayName())))
        : OVER;
  }

  private Page again(Ask ask, StoredPerson person) {
    return database.write(
        session -> {
          notices.countTry(session, ask.tokenHash());
          return open(session, ask)
              .map(
                  departure ->
                      new Page(
                          HttpStatus.UNPROCESSABLE_CONTENT,
                          TITLE,
                          form(
                              session,
                              person,
                              departure,
                              "Say whether you take it; if not, why, in at most %d characters."
                                  .formatted(LONGEST_REASON))))
              .orElse(OVER);
        });
  }

  /**
   * @param why null if they take it
   * @return false if the link is over
   */
  private boolean take(StatelessSession session, Ask ask, String why) {
    var departure = open(session, ask);
    if (departure.isEmpty() || !notices.use(session, ask.tokenHash(), clock.instant())) {
      return false;
    }
    var who =
        people
            .get(session, departure.get().recipient())
            .map(StoredPerson::displayName)
            .orElse("the recipient");
    departures.update(
        session,
        why == null
            ? departure.get().accepted(who)
            : departure.get().declined("%s: %s".formatted(who, why)));
    departures.lookSoon(session);
    journal.write(
        session,
        clock.instant(),
        Deed.of(
                "ask " + ask.notice(),
                "departure %d: %s %s"
                    .formatted(
                        departure.get().id(),
                        who,
                        why == null ? "takes what is handed over" : "declined to take it"),
                ask.person())
            .because(why));
    return true;
  }

  private String form(
      StatelessSession session, StoredPerson person, Departure departure, String why) {
    return """
        <p>What the accounts of <strong>%s</strong> own comes to you from %s on, unless somebody else is named.</p>%s%s
        <form method="post"><fieldset><legend>Do you take it?</legend>
        <label class="tick"><input type="radio" name="takes" value="yes" required> I take it</label>
        <label class="tick"><input type="radio" name="takes" value="no"%s> I cannot</label></fieldset>
        <label for="reason">If you cannot: why, and who could</label>
        <input id="reason" name="reason" maxlength="%d" autocomplete="off">
        <button>Send the answer</button></form>"""
        .formatted(
            HtmlUtils.htmlEscape(person.displayName()),
            DAY.format(departure.handOverFrom()),
            owned(session, departure),
            why == null ? "" : "<p class=\"why\" role=\"alert\">%s</p>".formatted(why),
            why == null ? "" : " checked",
            LONGEST_REASON);
  }

  private String owned(StatelessSession session, Departure departure) {
    var lines =
        departures.accounts(session, departure.id()).stream()
            .filter(part -> part.sheet() != null)
            .map(RecipientAsks::owned)
            .collect(Collectors.joining());
    return lines.isEmpty()
        ? "<p>What that is will be known once stock is taken.</p>"
        : "<ul>%s</ul>".formatted(lines);
  }

  private static String owned(DepartureAccount part) {
    return part.sheet().lines().entrySet().stream()
        .filter(line -> line.getValue().canBeHandedOver())
        .map(
            line ->
                "<li>%s in %s: %,d, %s</li>"
                    .formatted(
                        HtmlUtils.htmlEscape(line.getKey()),
                        HtmlUtils.htmlEscape(part.application()),
                        line.getValue().count() - line.getValue().uncovered(),
                        Sheet.size(line.getValue().bytes())))
        .collect(Collectors.joining());
  }
}
