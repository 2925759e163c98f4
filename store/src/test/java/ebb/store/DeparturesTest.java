package ebb.store;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.application.Carrier.Arrived;
import ebb.core.application.Carrier.NotCarried;
import ebb.core.application.Ownership.Item;
import ebb.core.application.References.Reference;
import ebb.core.departure.AccountCase.Handover;
import ebb.core.departure.Departure;
import ebb.core.handover.Piece;
import ebb.core.handover.Piece.State;
import ebb.core.handover.Sheet;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.store.departures.DepartureAccount;
import ebb.store.departures.Departures;
import ebb.store.departures.HandoverItems;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

public class DeparturesTest {
  private static final Instant NOW = Instant.parse("2027-03-01T12:00:00Z");
  private static final LocalDate LAST_DAY = LocalDate.parse("2027-02-28");
  private static final Item NOTES = new Item("1", "files", "notes", 10, "aa", true);
  private static final Item CHART = new Item("2", "files", "chart", 20, "bb", true);

  private final Departures departures = new Departures();
  private final HandoverItems items = new HandoverItems();
  private Database database;

  @BeforeMethod
  void begin() {
    database = TestDatabase.inMemory();
    var departure =
        Departure.begun(
            1,
            new PersonId(7),
            Departure.Kind.DEPARTURE,
            LAST_DAY,
            LAST_DAY.plusDays(3),
            false,
            null,
            "last day",
            NOW);
    database.writeAll(
        session -> {
          departures.insert(session, departure);
          departures.insertAccount(
              session, DepartureAccount.begun(1, 1, 70, "house", LAST_DAY.plusDays(30)));
        });
  }

  @AfterMethod
  void close() {
    database.close();
  }

  @Test
  public void anAccountComesBackAsItWasWritten() {
    var stocked =
        part()
            .stock(Sheet.of(List.of(NOTES, CHART)))
            .references(List.of(new Reference("manager", "manager of Ada")));

    update(stocked.started("transfer-1"));

    assertThat(part().sheet()).isEqualTo(stocked.sheet());
    assertThat(part().references()).isEqualTo(stocked.references());
    assertThat(part().handover()).isEqualTo(Handover.RUNNING);
    assertThat(part().transfer()).isEqualTo("transfer-1");
  }

  @Test
  public void whatIsBeingLookedAtIsCountedUntilItIsWritten() {
    assertThat(toLookAt()).as("due").isEqualTo(1);

    var claimed =
        database.write(session -> departures.claim(session, NOW, NOW.plusSeconds(120), 5));
    assertThat(toLookAt()).as("under lease").isEqualTo(1);

    update(claimed.getFirst().lookAgain(NOW.plusSeconds(60)));
    assertThat(toLookAt()).as("looked at").isZero();

    database.writeAll(session -> departures.lookSoon(session, 70));
    assertThat(toLookAt()).as("its account was changed").isEqualTo(1);
  }

  @Test
  public void sinceWhenAGateIsShutIsKeptUntilItOpens() {
    var first = LocalDate.of(2026, 11, 1);
    update(part().shut(Set.of("handover", "waiting"), first));
    update(part().shut(Set.of("waiting", "hold"), first.plusDays(2)));

    assertThat(part().shutSince()).isEqualTo(Map.of("waiting", first, "hold", first.plusDays(2)));
  }

  private long toLookAt() {
    return database.read(session -> departures.countToLookAt(session, NOW));
  }

  @Test
  public void aRetryCountsItsAttemptAndTakesStockAnew() {
    update(
        part()
            .stock(Sheet.of(List.of(NOTES)))
            .failed(new Problem("c", "what", "why", "remedy", null)));
    update(part().retried());

    assertThat(part().attempt()).isEqualTo(1);
    assertThat(part().sheet()).isNull();
    assertThat(part().problem()).isNull();
    assertThat(part().handover()).isEqualTo(Handover.NONE);
  }

  @Test
  public void whatWasOwnedAtFirstStaysOnTheSheetWhenStockIsTakenAgain() {
    keep(1, 1, NOTES, CHART);
    keep(1, 1, CHART);

    assertThat(states(1)).containsExactly(State.OWNED, State.OWNED);
    database.writeAll(session -> items.markGone(session, 1, 2, List.of("files")));
    assertThat(toCarry(1)).isEmpty();
  }

  @Test
  public void whatArrivedOrWasLeftOutIsNotCarriedAgain() {
    keep(2, 1, NOTES, CHART);
    database.writeAll(
        session -> {
          items.record(
              session, 2, List.of(new Arrived(NOTES.id(), "there", "bb", "in a folder")), "Bea");
          items.leaveOut(session, 2, null, CHART.id(), "ines: a draft");
        });
    keep(2, 1, NOTES, CHART);

    assertThat(states(2)).containsExactly(State.ARRIVED, State.LEFT_OUT);
    assertThat(toCarry(2)).isEmpty();
    assertThat(database.read(session -> items.sheet(session, 2)).count()).isEqualTo(2);
  }

  @Test
  public void whatFailedIsTriedAgainWithTheNextStock() {
    keep(3, 1, NOTES);
    database.writeAll(
        session ->
            items.record(
                session,
                3,
                List.of(
                    new NotCarried(NOTES.id(), new Problem("c", "what", "why", "remedy", null))),
                "Bea"));
    assertThat(states(3)).containsExactly(State.FAILED);

    keep(3, 1, NOTES);
    assertThat(states(3)).as("seen again with the same one").containsExactly(State.FAILED);

    keep(3, 2, NOTES);

    assertThat(states(3)).containsExactly(State.OWNED);
  }

  private void keep(long account, int attempt, Item... owned) {
    database.writeAll(session -> items.keep(session, account, List.of(owned), attempt));
  }

  private List<Item> toCarry(long account) {
    return database.read(session -> items.toCarry(session, account, List.of("files"), 9));
  }

  private List<State> states(long account) {
    return database.read(session -> items.page(session, account, null, null, 9)).items().stream()
        .map(Piece::state)
        .toList();
  }

  @Test
  public void aPartIsLookedAtByOneAtATime() {
    var first = claim(NOW);
    var second = claim(NOW);

    assertThat(first).hasSize(1);
    assertThat(second).isEmpty();
    assertThat(claim(NOW.plusSeconds(121))).hasSize(1);
  }

  @Test
  public void whoWroteMeanwhileWins() {
    var mine = part();
    update(part().waived("waiting", "agreed"));

    var written = database.write(session -> departures.updateAccount(session, mine.lookAgain(NOW)));

    assertThat(written).isFalse();
    assertThat(part().waivers()).containsEntry("waiting", "agreed");
  }

  @Test
  public void aDepartureThatIsOverIsLeftAlone() {
    var departure = database.read(session -> departures.get(session, 1)).orElseThrow();
    database.writeAll(
        session -> departures.update(session, departure.ended(Departure.State.TURNED_BACK, NOW)));

    assertThat(claim(NOW)).isEmpty();
    var running = database.read(session -> departures.running(session, new PersonId(7)));
    assertThat(running).isEmpty();
    var ofAccount = database.read(session -> departures.ofAccount(session, 70));
    assertThat(ofAccount.isPresent()).isFalse();
  }

  private DepartureAccount part() {
    return database.read(session -> departures.account(session, 1)).orElseThrow();
  }

  private void update(DepartureAccount next) {
    database.writeAll(session -> departures.updateAccount(session, next));
  }

  private List<DepartureAccount> claim(Instant now) {
    return database.write(session -> departures.claim(session, now, now.plusSeconds(120), 10));
  }
}
