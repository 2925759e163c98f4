package ebb.service.departures;

import ebb.core.application.Carrier;
import ebb.core.application.Carrier.Route;
import ebb.core.application.Level;
import ebb.core.application.Ownership;
import ebb.core.application.Ownership.Item;
import ebb.core.application.Unreachable;
import ebb.core.handover.Piece;
import ebb.core.handover.Proof;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.service.connections.Connections;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.departures.DepartureAccount;
import ebb.store.departures.HandoverItems;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.People;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/**
 * Takes stock of what an account owns, has it handed over and proves it: by a transfer of the
 * application's own, by carrying item by item, or by both. Each step is done with no transaction
 * open; its answer is what is to be kept of the account.
 */
@Component
final class Handovers {
  private static final Duration BETWEEN_POLLS = Duration.ofSeconds(1);
  private static final Duration BETWEEN_LOOKS = Duration.ofMinutes(1);
  private static final int PAGE = 1_000;

  private final Database database;
  private final BusinessClock clock;
  private final Connections connections;
  private final HandoverItems items;
  private final People people;
  private final Journal journal;
  private final DepartureBook book;
  private final Porter porter;

  Handovers(
      Database database,
      BusinessClock clock,
      Connections connections,
      HandoverItems items,
      People people,
      Journal journal,
      DepartureBook book,
      Porter porter) {
    this.book = book;
    this.database = database;
    this.clock = clock;
    this.connections = connections;
    this.items = items;
    this.people = people;
    this.journal = journal;
    this.porter = porter;
  }

  private List<Carrier> carriers(DepartureAccount part) {
    return connections.to(part.application()).carriers();
  }

  private static Set<String> kinds(List<Carrier> carriers) {
    return carriers.stream().flatMap(one -> one.kinds().stream()).collect(Collectors.toSet());
  }

  private Optional<Ownership> ownership(DepartureAccount part) {
    return connections.to(part.application()).ownership();
  }

  DepartureAccount takenStock(PartView view, DepartureAccount part) throws Unreachable {
    keep(view, part);
    return database.write(
        session -> {
          items.markGone(session, part.id(), part.attempt(), kinds(carriers(part)));
          var sheet = items.sheet(session, part.id());
          journal.write(
              session,
              clock.instant(),
              Deed.of(
                  "ebb",
                  "departure %d: took stock in %s, %d items"
                      .formatted(part.departure(), part.application(), sheet.count()),
                  view.departure().person()));
          return part.stock(sheet);
        });
  }

  /**
   * @return how many were not known
   */
  private int keep(PartView view, DepartureAccount part) throws Unreachable {
    var unknown = new int[1];
    var page = new ArrayList<Item>(PAGE);
    each(
        view,
        part,
        item -> {
          page.add(item);
          if (page.size() == PAGE) {
            unknown[0] += keep(part, page);
            page.clear();
          }
        });
    return unknown[0] + keep(part, page);
  }

  private int keep(DepartureAccount part, List<Item> page) {
    return page.isEmpty()
        ? 0
        : database.write(session -> items.keep(session, part.id(), page, part.attempt()));
  }

  /** What Ebb carries itself is listed by its server alone. */
  private void each(PartView view, DepartureAccount part, Consumer<Item> each) throws Unreachable {
    var carriers = carriers(part);
    var carried = kinds(carriers);
    var account = view.account().observed().id();
    var ownership = ownership(part);
    if (ownership.isPresent()) {
      ownership
          .get()
          .items(
              account,
              item -> {
                if (!carried.contains(item.kind())) {
                  each.accept(item);
                }
              });
    }
    for (var carrier : carriers) {
      carrier.items(account, each);
    }
  }

  /** How many items there are that nobody has decided about; 0 where that cannot be told. */
  long cameInSince(PartView view, DepartureAccount part) throws Unreachable {
    if (part.sheet() == null) {
      return 0;
    }
    var unknown = new long[1];
    var page = new ArrayList<String>(PAGE);
    each(
        view,
        part,
        item -> {
          page.add(item.id());
          if (page.size() == PAGE) {
            unknown[0] += unknown(part, page);
            page.clear();
          }
        });
    return unknown[0] + unknown(part, page);
  }

  private long unknown(DepartureAccount part, List<String> page) {
    return page.isEmpty()
        ? 0
        : page.size() - database.read(session -> items.known(session, part.id(), page)).size();
  }

  DepartureAccount started(PartView view, DepartureAccount part) throws Unreachable {
    var amiss = againstRecipient(view, part);
    if (amiss.isPresent()) {
      return failed(view, part, amiss.get());
    }
    if (toTransfer(part).isEmpty()) {
      return part.started(null).lookAgain(Instant.now());
    }
    var ownership = ownership(part);
    if (ownership.isEmpty()) {
      return failed(view, part, byNobody(part));
    }
    var transfer =
        ownership
            .get()
            .startTransfer(
                view.account().observed().id(),
                view.recipient().orElseThrow().observed().id(),
                "ebb-handover-%d-%d".formatted(part.id(), part.attempt()));
    return part.started(transfer.id()).lookAgain(Instant.now());
  }

  /** What the application hands over itself, and has not yet. */
  private List<Item> toTransfer(DepartureAccount part) {
    return database.read(session -> items.ofTransfer(session, part.id(), kinds(carriers(part))));
  }

  /** Why nothing can be handed over to whom is named; empty if it can. */
  private Optional<Problem> againstRecipient(PartView view, DepartureAccount part)
      throws Unreachable {
    if (view.recipient().isEmpty() || view.recipient().get().level() == Level.GONE) {
      return Optional.of(noAccount(part));
    }
    if (view.recipient().get().level() == Level.SUSPENDED) {
      return Optional.of(suspended(view, part));
    }
    for (var carrier : carriers(part)) {
      var needed =
          database.read(session -> items.bytesToCarry(session, part.id(), carrier.kinds()));
      var room = carrier.room(view.recipient().get().observed().id());
      if (room.isPresent() && room.getAsLong() < needed) {
        return Optional.of(noRoom(view, words(carrier), needed, room.getAsLong()));
      }
    }
    return Optional.empty();
  }

  /** Empty while somebody carries what there is. */
  Optional<DepartureAccount> followed(PartView view, DepartureAccount part) throws Unreachable {
    if (view.recipient().isEmpty()) {
      return Optional.of(failed(view, part, noAccount(part)));
    }
    for (var carrier : carriers(part)) {
      if (isToCarry(part, carrier)) {
        return porter.carry(part, carrier, route(view));
      }
    }
    if (part.transfer() != null) {
      return Optional.of(transferred(view, part));
    }
    return Optional.of(toTransfer(part).isEmpty() ? proven(view, part) : started(view, part));
  }

  /** What happens after the last day is the recipient's. */
  private Route route(PartView view) {
    return new Route(
        view.account().observed().id(),
        view.recipient().orElseThrow().observed().id(),
        "From " + name(view.departure().person()),
        view.departure().lastDay().plusDays(1).atStartOfDay(clock.zone()));
  }

  private static String words(Carrier carrier) {
    return carrier.kinds().stream().sorted().collect(Collectors.joining(" and "));
  }

  private boolean isToCarry(DepartureAccount part, Carrier carrier) {
    return !database
        .read(session -> items.toCarry(session, part.id(), carrier.kinds(), 1))
        .isEmpty();
  }

  private DepartureAccount transferred(PartView view, DepartureAccount part) throws Unreachable {
    var there = ownership(part);
    if (there.isEmpty()) {
      return failed(view, part, byNobody(part));
    }
    var ownership = there.get();
    var transfer = ownership.transfer(part.transfer());
    return switch (transfer.state()) {
      case RUNNING -> part.lookAgain(Instant.now().plus(BETWEEN_POLLS));
      case FAILED -> failed(view, part, transferFailed(part, transfer.detail()));
      case DONE -> {
        var open = notTransferred(view, part, ownership);
        if (!open.isEmpty()) {
          yield failed(view, part, open.getFirst());
        }
        database.writeAll(session -> items.allArrived(session, part.id(), kinds(carriers(part))));
        yield proven(view, part);
      }
    };
  }

  /** The application's word is not enough: both sides are counted and compared. */
  private List<Problem> notTransferred(PartView view, DepartureAccount part, Ownership ownership)
      throws Unreachable {
    var owned = toTransfer(part).stream().collect(Collectors.toMap(Item::id, item -> item));
    List<Item> left = new ArrayList<>();
    ownership.items(
        view.account().observed().id(),
        item -> {
          if (owned.containsKey(item.id())) {
            left.add(item);
          }
        });
    Map<String, Item> arrived = new HashMap<>();
    ownership.items(
        view.recipient().orElseThrow().observed().id(),
        item -> {
          if (owned.containsKey(item.id())) {
            arrived.put(item.id(), item);
          }
        });
    return Proof.check(
        List.copyOf(owned.values()), left, arrived, name(view.departure().recipient()));
  }

  /** What came in meanwhile goes the same way, before anything is called proven. */
  private DepartureAccount proven(PartView view, DepartureAccount part) throws Unreachable {
    if (!carriers(part).isEmpty() && keep(view, part) > 0) {
      return part.lookAgain(Instant.now());
    }
    var failed =
        database.read(
            session -> items.page(session, part.id(), Piece.State.FAILED, null, 1).items());
    if (!failed.isEmpty()) {
      return failed(view, part, notCarried(part, failed.getFirst().problem()));
    }
    var count = database.read(session -> items.count(session, part.id(), Piece.State.ARRIVED));
    book.note(
        view.departure(),
        "handover of %d items in %s is proven".formatted(count, part.application()));
    return part.proven(clock.instant()).lookAgain(Instant.now());
  }

  private DepartureAccount failed(PartView view, DepartureAccount part, Problem problem) {
    book.note(
        view.departure(),
        "handover in %s failed: %s".formatted(part.application(), problem.code()));
    return part.failed(problem).lookAgain(Instant.now().plus(BETWEEN_LOOKS));
  }

  private String name(PersonId person) {
    return database
        .read(session -> people.get(session, person))
        .map(stored -> stored.displayName())
        .orElse("the recipient");
  }

  private static Problem transferFailed(DepartureAccount part, String detail) {
    return new Problem(
        "handover-failed",
        "%s could not hand everything over: %s".formatted(part.application(), detail),
        "Removal stays shut until everything is proven to have arrived.",
        "Mend what it says, then retry the handover.",
        null);
  }

  private Problem notCarried(DepartureAccount part, Problem first) {
    var count = database.read(session -> items.count(session, part.id(), Piece.State.FAILED));
    return count == 1
        ? first
        : new Problem(
            first.code(),
            "%d items could not be handed over, the first: %s".formatted(count, first.what()),
            first.why(),
            "See each in its list. " + first.remedy(),
            null);
  }

  private static Problem byNobody(DepartureAccount part) {
    return new Problem(
        "handover-by-nobody",
        "Nobody hands over all that the account in %s owned.".formatted(part.application()),
        "The server or the companion interface that listed it is not in its settings any more.",
        "Set it again, then retry; stock is taken anew.",
        null);
  }

  private static Problem noAccount(DepartureAccount part) {
    return new Problem(
        "recipient-without-account",
        "Whoever is to get it has no account in %s.".formatted(part.application()),
        "It was there when they were named, or is yet to be made.",
        "Name somebody else, then retry.",
        null);
  }

  private Problem suspended(PartView view, DepartureAccount part) {
    return new Problem(
        "recipient-suspended",
        "The account of %s in %s is suspended."
            .formatted(name(view.departure().recipient()), part.application()),
        "They could not get at what they are given.",
        "Name somebody else, or have them back; then retry.",
        null);
  }

  private Problem noRoom(PartView view, String kind, long needed, long room) {
    return new Problem(
        "recipient-full",
        "%s has room for %,d bytes of %s, and gets %,d."
            .formatted(name(view.departure().recipient()), room, kind, needed),
        "Nothing is begun that cannot be ended.",
        "Give them more room, or name somebody else; then retry.",
        null);
  }
}
