package ebb.core.departure;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.Chance;
import ebb.core.application.Level;
import ebb.core.application.Ownership.Item;
import ebb.core.application.References.Reference;
import ebb.core.departure.AccountCase.Handover;
import ebb.core.departure.Removal.Ending;
import ebb.core.handover.Proof;
import ebb.core.handover.Sheet;
import ebb.core.person.Hold;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import org.testng.annotations.Test;

/**
 * Departures to which anything happens at any time: dates moved, holds, faults, returns, kills,
 * rules that give an account again. What is deleted is judged by what is so, not by the gates.
 */
public class RandomDeparturesTest {
  private static final int EVENTS = Integer.getInteger("departure.events", 100_000);
  private static final long SEED = Chance.seed(20_261_129L);
  private static final LocalDate BEGIN = LocalDate.parse("2027-01-01");
  private static final String OWNER = "Leaver";
  private static final String RECIPIENT = "Head";

  private static final Problem FAULT =
      new Problem("handover-failed", "It broke off.", "A fault.", "Retry it.", null);

  private final Random random = new Random(SEED);
  private int deleted;
  private int restored;
  private int refusedAtTheEnd;

  @Test
  public void noDestructiveChangeSkipsAGateWhateverHappens() {
    var world = new World();
    for (int event = 0; event < EVENTS; event++) {
      world = world.isOver() ? new World() : world;
      world.happens("event %d of seed %d".formatted(event, SEED));
    }
    assertThat(deleted).as("it gets to its end, too").isGreaterThan(EVENTS / 1_000);
    assertThat(restored).as("and back").isGreaterThan(10);
    assertThat(refusedAtTheEnd).as("something came between").isGreaterThan(10);
  }

  /** One account, the application it is in, and what is said of its owner. */
  private final class World {
    private final Removal removal =
        new Removal(
            random.nextBoolean() ? Ending.DELETE : Ending.STRIP,
            random.nextInt(3) * 5,
            Long.MAX_VALUE,
            0);
    private final boolean hasUncovered = random.nextInt(4) == 0;

    // What is so.
    private final Map<String, String> ownerOf = new HashMap<>();
    private final Set<String> references = new HashSet<>();
    private Level level = Level.ACTIVE;
    private boolean isHandingOver;
    private Optional<Hold> hold = Optional.empty();
    private boolean isWaived;
    private LocalDate today = BEGIN.plusDays(1);
    private LocalDate notBefore = BEGIN.plusDays(30);
    private LocalDate windowEnds;
    private boolean hasEnded;
    private boolean isBack;

    // What is known of it.
    private Departure departure =
        Departure.begun(
            1,
            new PersonId(1),
            Departure.Kind.DEPARTURE,
            BEGIN,
            BEGIN.plusDays(3),
            random.nextBoolean(),
            new PersonId(2),
            "last day " + BEGIN,
            Instant.EPOCH);
    private List<Item> stock;
    private List<Reference> known;
    private Handover handover = Handover.NONE;
    private LocalDate deleteFrom = BEGIN.plusDays(30);
    private LocalDate restorableUntil;
    private boolean isEndAsked;

    /** References nobody could know of when the end was asked for. */
    private final Set<String> cameSince = new HashSet<>();

    World() {
      for (int i = random.nextInt(3); i > 0; i--) {
        ownerOf.put("file-" + i, OWNER);
      }
      if (random.nextBoolean()) {
        references.add("manager of Ada");
      }
    }

    boolean isOver() {
      return hasEnded || isBack;
    }

    void happens(String when) {
      switch (random.nextInt(16)) {
        case 0 -> today = today.plusDays(random.nextInt(12));
        case 1 -> level = Level.SUSPENDED;
        case 2 ->
            hold =
                random.nextInt(3) == 0
                    ? Optional.of(new Hold(1, new PersonId(1), "audit", "ida", null))
                    : Optional.empty();
        case 3 -> departure = departure.paused(random.nextInt(4) == 0 ? "by ida: wait" : null);
        case 4 -> {
          if (random.nextInt(4) == 0) {
            departure = departure.notReturning("no, says ida");
          }
        }
        case 5 -> references.clear();
        case 6 -> {
          if (random.nextInt(3) == 0) {
            refer("owner of a group");
          }
        }
        case 7 -> isWaived |= random.nextBoolean();
        case 8 -> moveTheLastDay();
        case 9 -> failOrRetry();
        case 10 -> comeBack();
        default -> look(when);
      }
    }

    private void refer(String what) {
      if (references.add(what)) {
        cameSince.add(what);
      }
    }

    /** Later moves everything along, earlier moves nothing. */
    private void moveTheLastDay() {
      var days = random.nextInt(9) - 4;
      if (days > 0 && random.nextInt(4) == 0) {
        departure =
            departure.moved(
                departure.lastDay().plusDays(days), departure.handOverFrom().plusDays(days));
        deleteFrom = deleteFrom.plusDays(days);
        notBefore = notBefore.plusDays(days);
      }
    }

    private void failOrRetry() {
      if (isHandingOver) {
        isHandingOver = false;
        handover = Handover.FAILED;
      } else if (handover == Handover.FAILED) {
        stock = null;
        known = null;
        handover = Handover.NONE;
      }
    }

    /** As long as it exists, whatever was done so far. */
    private void comeBack() {
      if (random.nextInt(40) == 0) {
        assertThat(hasEnded).isFalse();
        isBack = true;
        restored++;
      }
    }

    /** One look of the service; it may be killed between what it does and what it keeps of it. */
    private void look(String when) {
      if (isEndAsked) {
        carryOutEnd(when);
        return;
      }
      var isKilled = random.nextInt(10) == 0;
      var before = known;
      known = references.stream().map(one -> new Reference("group", one)).toList();
      switch (next()) {
        case TAKE_STOCK -> {
          var found = items(OWNER);
          if (!isKilled) {
            stock = found;
          }
        }
        case HAND_OVER -> {
          isHandingOver = true;
          if (!isKilled) {
            handover = Handover.RUNNING;
          }
        }
        case FOLLOW_HANDOVER -> follow(isKilled);
        case OPEN_WINDOW -> {
          if (!isKilled) {
            restorableUntil = today.plusDays(removal.restoreDays());
            windowEnds = restorableUntil;
          }
        }
        case REMOVE -> {
          assertThat(references).as(when).isEmpty();
          cameSince.clear();
          isEndAsked = !isKilled;
        }
        case WAIT, WAIT_UNTIL_OFF, STAY -> {
          // Nothing is done.
        }
      }
      known = isKilled ? before : known;
    }

    private void follow(boolean isKilled) {
      if (!isHandingOver) {
        handover = Handover.FAILED;
        return;
      }
      ownerOf.entrySet().stream()
          .filter(item -> !item.getKey().startsWith("locked"))
          .filter(_ -> random.nextInt(4) > 0)
          .forEach(item -> item.setValue(RECIPIENT));
      var arrived = items(RECIPIENT).stream().collect(Collectors.toMap(Item::id, item -> item));
      var owned = stock.stream().filter(Item::transferable).toList();
      if (!isKilled && Proof.check(owned, items(OWNER), arrived, RECIPIENT).isEmpty()) {
        isHandingOver = false;
        handover = Handover.PROVEN;
      }
    }

    /** The gates are looked at once more: something may have come between. */
    private void carryOutEnd(String when) {
      if (next() != Next.REMOVE) {
        isEndAsked = false;
        refusedAtTheEnd++;
        return;
      }
      judge(when);
      hasEnded = true;
      deleted++;
    }

    private void judge(String when) {
      assertThat(level).as(when).isEqualTo(Level.SUSPENDED);
      assertThat(hold).as(when).isEmpty();
      assertThat(departure.paused()).as(when).isNull();
      assertThat(departure.asksReturn() && departure.notReturning() == null).as(when).isFalse();
      assertThat(ownerOf.values()).as(when).doesNotContain(OWNER);
      assertThat(hasUncovered && !isWaived).as(when).isFalse();
      assertThat(today).as(when).isAfterOrEqualTo(notBefore);
      assertThat(references).as(when).isSubsetOf(cameSince);
      if (removal.restoreDays() > 0) {
        assertThat(today).as(when).isAfter(windowEnds);
      }
    }

    private Next next() {
      var account = account();
      return Next.of(departure, account, Gates.of(departure, account, hold, today), today);
    }

    private List<Item> items(String owner) {
      var items = new ArrayList<Item>();
      ownerOf.forEach(
          (id, whose) -> {
            if (whose.equals(owner)) {
              items.add(new Item(id, "files", id, 10, "aa", true));
            }
          });
      if (hasUncovered && owner.equals(OWNER)) {
        items.add(new Item("locked", "notes", "locked", 10, "bb", false));
      }
      return items;
    }

    private AccountCase account() {
      return new AccountCase(
          "house",
          level,
          null,
          true,
          true,
          stock == null ? null : Sheet.of(stock),
          known,
          RECIPIENT,
          handover,
          null,
          handover == Handover.FAILED ? FAULT : null,
          isWaived ? Map.of("uncovered", "it is on paper") : Map.of(),
          deleteFrom,
          "off",
          false,
          removal,
          restorableUntil);
    }
  }
}
