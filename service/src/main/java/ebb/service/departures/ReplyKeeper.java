package ebb.service.departures;

import ebb.core.application.Level;
import ebb.core.application.Part;
import ebb.core.application.Replies.Reply;
import ebb.core.application.Unreachable;
import ebb.core.departure.AutomaticReply;
import ebb.core.departure.AutomaticReply.State;
import ebb.core.departure.Departure;
import ebb.core.problem.Problem;
import ebb.service.connections.Connections;
import ebb.service.notices.Addresses;
import ebb.service.time.BusinessClock;
import ebb.service.work.RunningWork;
import ebb.store.Database;
import ebb.store.applications.Accounts;
import ebb.store.departures.AutomaticReplies;
import ebb.store.departures.DepartureAccount;
import ebb.store.departures.Departures;
import ebb.store.people.People;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * Has servers answer whoever writes to somebody who has left, and takes that back when they return.
 * Nothing else of a departure waits for it. Each is claimed, called with no transaction open, and
 * recorded; setting it twice is as good as once.
 */
@Component
class ReplyKeeper implements RunningWork {
  private static final Logger LOG = LoggerFactory.getLogger(ReplyKeeper.class);
  private static final Duration LEASE = Duration.ofMinutes(2);
  private static final Duration BETWEEN_TRIES = Duration.ofMinutes(1);
  private static final int AT_ONCE = 20;

  private final Database database;
  private final BusinessClock clock;
  private final Connections connections;
  private final AutomaticReplies replies;
  private final Departures departures;
  private final Accounts accounts;
  private final People people;
  private final Addresses addresses;
  private final ProcedureBook procedures;
  private final DepartureBook book;

  ReplyKeeper(
      Database database,
      BusinessClock clock,
      Connections connections,
      AutomaticReplies replies,
      Departures departures,
      Accounts accounts,
      People people,
      Addresses addresses,
      ProcedureBook procedures,
      DepartureBook book) {
    this.database = database;
    this.clock = clock;
    this.connections = connections;
    this.replies = replies;
    this.departures = departures;
    this.accounts = accounts;
    this.people = people;
    this.addresses = addresses;
    this.procedures = procedures;
    this.book = book;
  }

  @Override
  public Map<String, Long> running(StatelessSession session) {
    return Map.of("automatic replies", replies.countDue(session, Instant.now()));
  }

  @Scheduled(fixedDelay = 500)
  synchronized void look() {
    try {
      var now = Instant.now();
      if (database.read(session -> replies.countDue(session, now)) > 0) {
        database
            .write(session -> replies.claim(session, now, now.plus(LEASE), AT_ONCE))
            .forEach(this::further);
      }
    } catch (RuntimeException e) {
      LOG.error("Automatic replies could not be looked at; this is tried again", e);
    }
  }

  /**
   * @param account its id in the application
   * @param reply what is to be set; empty if it is to be taken back, or its time is over
   */
  private record Due(
      AutomaticReply state,
      Departure departure,
      String application,
      String account,
      boolean isGone,
      Optional<Reply> reply) {}

  private void further(long account) {
    var due = database.read(session -> due(session, account));
    var from = due.state().state();
    var to = due.reply().isPresent() ? State.SET : State.TAKEN_BACK;
    try {
      carryOut(due);
      database.writeAll(session -> replies.became(session, account, from, to, null, Instant.now()));
      book.note(
          due.departure(),
          to == State.SET
              ? "whoever writes to %s is answered until %s"
                  .formatted(due.application(), due.state().until())
              : "the automatic reply in %s is taken back".formatted(due.application()));
    } catch (Unreachable e) {
      database.writeAll(
          session ->
              replies.became(
                  session, account, from, from, e.problem(), Instant.now().plus(BETWEEN_TRIES)));
    }
  }

  /** Where an application cannot reply any more there is nothing to be taken back. */
  private void carryOut(Due due) throws Unreachable {
    var there = connections.to(due.application()).replies();
    if (due.reply().isPresent()) {
      there
          .orElseThrow(() -> new Unreachable(cannotReply(due.application()), null))
          .set(due.account(), due.reply().get());
    } else if (there.isPresent() && !due.isGone()) {
      there.get().takeBack(due.account());
    }
  }

  private Due due(StatelessSession session, long number) {
    var part = departures.account(session, number).orElseThrow();
    var departure = departures.get(session, part.departure()).orElseThrow();
    var state = replies.of(session, number).orElseThrow();
    var account = accounts.get(session, part.account()).orElseThrow();
    return new Due(
        state,
        departure,
        part.application(),
        account.observed().id(),
        account.level() == Level.GONE,
        state.state() == State.TO_TAKE_BACK || clock.today().isAfter(state.until())
            ? Optional.empty()
            : reply(session, departure, part, state));
  }

  /** Empty where the procedure knows no text any more. */
  private Optional<Reply> reply(
      StatelessSession session, Departure departure, DepartureAccount part, AutomaticReply state) {
    var leaver = people.get(session, departure.person()).orElseThrow();
    return Optional.ofNullable(procedures.of(session, leaver.person()).reply())
        .map(
            text ->
                text.filled(
                    leaver.displayName(),
                    Optional.ofNullable(departure.recipient())
                        .flatMap(id -> people.get(session, id))
                        .map(stored -> stored.displayName())
                        .orElse(""),
                    Optional.ofNullable(departure.recipient())
                        .flatMap(id -> addresses.ofWork(session, id))
                        .orElse(""),
                    departure.lastDay(),
                    state.until()));
  }

  private static Problem cannotReply(String application) {
    return new Problem(
        "reply-not-possible",
        "%s answers nobody by itself any more.".formatted(application),
        Part.REPLIES.without() + ".",
        "Correct its settings; it is tried again.",
        null);
  }
}
