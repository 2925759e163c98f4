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
import ebb.service.connections.SettingsCheck;
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
    var amiss = againstRecipients(view, part);
    if (amiss.isPresent()) {
      return failed(view, part, amiss.get());
    }
    var next = nextShare(view, part);
    if (next.isEmpty()) {
      return part.started(null).lookAgain(Instant.now());
    }
    var ownership = ownership(part);
    if (ownership.isEmpty()) {
      return failed(view, part, byNobody(part));
    }
    var share = next.get();
    var key = "ebb-handover-%d-%d".formatted(part.id(), part.attempt());
    var transfer =
        ownership
            .get()
            .startTransfer(
                view.account().observed().id(),
                share.to().id(),
                view.shares().areSeveral() ? share.kinds() : Set.of(),
                view.shares().areSeveral() ? key + "-" + share.to().id() : key);
    return part.started(transfer.id()).lookAgain(Instant.now());
  }

  /** What the application hands over itself, and has not yet. */
  private List<Item> toTransfer(DepartureAccount part) {
    return database.read(session -> items.ofTransfer(session, part.id(), kinds(carriers(part))));
  }

  /** Some of what the application hands over itself, all of it to one. */
  private record Share(Recipient to, List<Item> items) {
    Set<String> kinds() {
      return items.stream().map(Item::kind).collect(Collectors.toSet());
    }
  }

  /** The same for as long as it has not arrived. */
  private Optional<Share> nextShare(PartView view, DepartureAccount part) {
    var all = toTransfer(part);
    return all.stream()
        .findFirst()
        .flatMap(first -> view.shares().of(first.kind()))
        .map(
            to ->
                new Share(
                    to,
                    all.stream()
                        .filter(item -> view.shares().of(item.kind()).equals(Optional.of(to)))
                        .toList()));
  }

  /** Why nothing can be handed over to whom is named; empty if it can. */
  private Optional<Problem> againstRecipients(PartView view, DepartureAccount part)
      throws Unreachable {
    var amiss = againstAccounts(view, part);
    if (amiss.isPresent()) {
      return amiss;
    }
    for (var carrier : carriers(part)) {
      for (var kind : kindsToCarry(part, carrier)) {
        var to = view.shares().of(kind).orElseThrow();
        var needed = database.read(session -> items.bytesToCarry(session, part.id(), Set.of(kind)));
        var room = carrier.room(to.id());
        if (room.isPresent() && room.getAsLong() < needed) {
          return Optional.of(noRoom(to, kind, needed, room.getAsLong()));
        }
      }
    }
    return Optional.empty();
  }

  private Optional<Problem> againstAccounts(PartView view, DepartureAccount part) {
    for (var kind : database.read(session -> items.kindsOwned(session, part.id()))) {
      var to = view.shares().of(kind);
      if (to.isEmpty() || to.get().account() == null || to.get().account().level() == Level.GONE) {
        return Optional.of(noAccount(part, kind, to));
      }
      if (to.get().account().level() == Level.SUSPENDED && !to.get().isPlaceholder()) {
        return Optional.of(suspended(part, to.get()));
      }
    }
    return Optional.empty();
  }

  private List<String> kindsToCarry(DepartureAccount part, Carrier carrier) {
    return database.read(session -> items.kindsOwned(session, part.id())).stream()
        .filter(carrier.kinds()::contains)
        .toList();
  }

  /** Empty while somebody carries what there is. */
  Optional<DepartureAccount> followed(PartView view, DepartureAccount part) throws Unreachable {
    var amiss = againstAccounts(view, part);
    if (amiss.isPresent()) {
      return Optional.of(failed(view, part, amiss.get()));
    }
    for (var carrier : carriers(part)) {
      var kind = kindsToCarry(part, carrier).stream().findFirst();
      if (kind.isPresent()) {
        var to = view.shares().of(kind.get()).orElseThrow();
        return porter.carry(part, carrier, kind.get(), route(view, to), to.name());
      }
    }
    if (part.transfer() != null) {
      return Optional.of(transferred(view, part));
    }
    return Optional.of(toTransfer(part).isEmpty() ? proven(view, part) : started(view, part));
  }

  /** What happens after the last day is the recipient's. */
  private Route route(PartView view, Recipient to) {
    return new Route(
        view.account().observed().id(),
        to.id(),
        "From " + name(view.departure().person()),
        view.departure().lastDay().plusDays(1).atStartOfDay(clock.zone()));
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
        var share = nextShare(view, part);
        if (share.isEmpty()) {
          yield proven(view, part);
        }
        var open = notTransferred(view, share.get(), ownership);
        if (!open.isEmpty()) {
          yield failed(view, part, open.getFirst());
        }
        database.writeAll(
            session ->
                items.allArrived(session, part.id(), share.get().kinds(), share.get().to().name()));
        yield toTransfer(part).isEmpty() ? proven(view, part) : started(view, part);
      }
    };
  }

  /** The application's word is not enough: both sides are counted and compared. */
  private List<Problem> notTransferred(PartView view, Share share, Ownership ownership)
      throws Unreachable {
    var owned = share.items().stream().collect(Collectors.toMap(Item::id, item -> item));
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
        share.to().id(),
        item -> {
          if (owned.containsKey(item.id())) {
            arrived.put(item.id(), item);
          }
        });
    return Proof.check(List.copyOf(owned.values()), left, arrived, share.to().name());
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

  private static Problem noAccount(DepartureAccount part, String kind, Optional<Recipient> to) {
    var setting = SettingsCheck.RECIPIENT + kind;
    return new Problem(
        "recipient-without-account",
        "%s, who gets %s, has no account in %s."
            .formatted(to.map(Recipient::name).orElse("Nobody"), kind, part.application()),
        "It was there when they were named, or is yet to be made.",
        "Name somebody else (ebb departures recipient %d PERSON), or in the setting %s; then retry."
            .formatted(part.departure(), setting),
        null);
  }

  private static Problem suspended(DepartureAccount part, Recipient to) {
    return new Problem(
        "recipient-suspended",
        "The account of %s in %s is suspended.".formatted(to.name(), part.application()),
        "They could not get at what they are given.",
        "Name somebody else, or have them back; then retry.",
        null);
  }

  private static Problem noRoom(Recipient to, String kind, long needed, long room) {
    return new Problem(
        "recipient-full",
        "%s has room for %,d bytes of %s, and gets %,d.".formatted(to.name(), room, kind, needed),
        "Nothing is begun that cannot be ended.",
        "Give them more room, or name somebody else; then retry.",
        null);
  }
}
