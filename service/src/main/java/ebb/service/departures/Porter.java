package ebb.service.departures;

import ebb.core.application.Carrier;
import ebb.core.application.Carrier.Carried;
import ebb.core.application.Carrier.Route;
import ebb.core.application.Ownership.Item;
import ebb.core.application.Unreachable;
import ebb.core.departure.Gate;
import ebb.store.Database;
import ebb.store.departures.DepartureAccount;
import ebb.store.departures.Departures;
import ebb.store.departures.HandoverItems;
import jakarta.annotation.PreDestroy;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Semaphore;
import java.util.function.Predicate;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Carries what an account owns, some of it at a time, beside everything else. What arrived is kept
 * every few seconds, and with it the lease: a crash costs what was carried since, and that is found
 * at the recipient's when it is carried again.
 */
@Component
final class Porter {
  private static final Logger LOG = LoggerFactory.getLogger(Porter.class);

  /** One item may take long; where nothing comes for some seconds the connection ends by itself. */
  private static final Duration LEASE = Duration.ofMinutes(15);

  private static final Duration BETWEEN_LOOKS = Duration.ofMinutes(1);
  private static final Duration LONGEST_UNKEPT = Duration.ofSeconds(3);
  private static final int MOST_UNKEPT = 100;
  private static final int AT_ONCE = 2;

  /** Then it is looked whether it is to go on at all. */
  private static final int ITEMS = 1_000;

  private final Database database;
  private final Departures departures;
  private final HandoverItems items;
  private final GateKeeper gates;
  private final Semaphore places = new Semaphore(AT_ONCE);

  /** Accounts of departures; whoever is told to stop ends the item they are at. */
  private final Set<Long> underWay = ConcurrentHashMap.newKeySet();

  private final ExecutorService work = Executors.newVirtualThreadPerTaskExecutor();

  Porter(Database database, Departures departures, HandoverItems items, GateKeeper gates) {
    this.database = database;
    this.departures = departures;
    this.items = items;
    this.gates = gates;
  }

  /**
   * Begins to carry some of it; what comes of it is kept here.
   *
   * @param kind of which
   * @param to the name of who gets it
   * @return what is to be kept if nothing was begun: it waits
   */
  Optional<DepartureAccount> carry(
      DepartureAccount part, Carrier carrier, String kind, Route route, String to) {
    if (!mayMove(part)) {
      return Optional.of(part.lookAgain(Instant.now().plus(BETWEEN_LOOKS)));
    }
    if (!underWay.add(part.id())) {
      return Optional.of(part.lookAgain(Instant.now().plusSeconds(1)));
    }
    if (!places.tryAcquire()) {
      underWay.remove(part.id());
      return Optional.of(part.lookAgain(Instant.now().plusSeconds(1)));
    }
    work.submit(
        () -> {
          try {
            new Load(part, carrier, kind, route, to).carry();
          } catch (RuntimeException e) {
            LOG.error("A handover broke off; it goes on when its lease has ended", e);
          } finally {
            places.release();
            underWay.remove(part.id());
          }
        });
    return Optional.empty();
  }

  /** Under a hold or a pause nothing is moved. */
  private boolean mayMove(DepartureAccount part) {
    return database.read(
        session ->
            gates.gates(session, part).stream()
                .filter(gate -> gate.name().equals("hold") || gate.name().equals("paused"))
                .allMatch(Gate::isOpen));
  }

  @PreDestroy
  void close() {
    work.shutdownNow();
    work.close();
  }

  /** Some items on their way. */
  private final class Load implements Predicate<Carried> {
    private final Carrier carrier;
    private final String kind;
    private final Route route;
    private final String to;
    private final List<Carried> unkept = new ArrayList<>();
    private DepartureAccount part;
    private Instant kept = Instant.now();
    private boolean isOurs = true;

    Load(DepartureAccount part, Carrier carrier, String kind, Route route, String to) {
      this.part = part;
      this.carrier = carrier;
      this.kind = kind;
      this.route = route;
      this.to = to;
    }

    void carry() {
      part = part.troubled(null);
      keep(Instant.now().plus(LEASE));
      try {
        if (isOurs) {
          carrier.carry(route, toCarry(), this);
          keep(Instant.now());
        }
      } catch (Unreachable e) {
        part =
            e.problem().code().equals("recipient-full")
                ? part.failed(e.problem())
                : part.troubled(e.problem());
        keep(Instant.now().plus(BETWEEN_LOOKS));
      }
    }

    private List<Item> toCarry() {
      return database.read(session -> items.toCarry(session, part.id(), Set.of(kind), ITEMS));
    }

    @Override
    public boolean test(Carried carried) {
      unkept.add(carried);
      if (unkept.size() >= MOST_UNKEPT || kept.plus(LONGEST_UNKEPT).isBefore(Instant.now())) {
        keep(Instant.now().plus(LEASE));
      }
      return isOurs;
    }

    /** What an operator wrote meanwhile stands; what has arrived has arrived all the same. */
    private void keep(Instant nextLook) {
      database.writeAll(
          session -> {
            items.record(session, part.id(), unkept, to);
            isOurs = isOurs && departures.updateAccount(session, part.lookAgain(nextLook));
            part = departures.account(session, part.id()).orElseThrow();
          });
      unkept.clear();
      kept = Instant.now();
      isOurs = isOurs && mayMove(part);
    }
  }
}
