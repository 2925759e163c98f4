package ebb.core.change;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.application.Value;
import ebb.core.change.Needs.Draft;
import ebb.core.compare.Edit;
import ebb.core.person.PersonId;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import org.testng.annotations.Test;

public class NeedsTest {
  @Test
  public void aReportIsCreatedAfterTheManagerWhateverTheOrder() {
    var ordered = Needs.order(List.of(create(1, 2), create(2, null)));

    assertThat(ordered.needs()).containsOnlyKeys(0).containsEntry(0, Set.of(1));
  }

  @Test
  public void aRingIsBrokenByAReferenceThatFollows() {
    var ordered = Needs.order(List.of(create(1, 2), create(2, 1)));

    assertThat(ordered.changes()).hasSize(3);
    var follow = ordered.changes().getLast();
    assertThat(follow.step().kind()).isEqualTo(ChangeKind.UPDATE);
    assertThat(follow.step().edits()).containsOnlyKeys("manager");
    assertThat(ordered.needs().get(2)).containsExactlyInAnyOrder(0, 1);
  }

  @Test
  public void oneWhoIsTheirOwnManagerIsCreatedFirst() {
    var ordered = Needs.order(List.of(create(1, 1)));

    assertThat(ordered.changes()).hasSize(2);
    assertThat(ordered.needs()).containsOnlyKeys(1);
  }

  @Test
  public void anythingWithAnyManagersCanBeCarriedOut() {
    var random = new Random(3);
    for (int run = 0; run < 300; run++) {
      var drafts = new ArrayList<Draft>();
      for (int person = 0; person < 12; person++) {
        drafts.add(create(person, random.nextInt(12)));
        drafts.add(
            new Draft(new PersonId(person), "app", null, Step.group(ChangeKind.JOIN, "g", "rule")));
      }
      var ordered = Needs.order(drafts);
      var done = new HashSet<Integer>();
      boolean moved = true;
      while (moved) {
        moved = false;
        for (int i = 0; i < ordered.changes().size(); i++) {
          if (!done.contains(i) && done.containsAll(ordered.needs().getOrDefault(i, Set.of()))) {
            moved = done.add(i);
          }
        }
      }
      assertThat(done).as("run %d", run).hasSize(ordered.changes().size());
    }
  }

  @Test
  public void statesMoveOnlyAsTheyMay() {
    assertThat(ChangeState.PROPOSED.mayBecome(ChangeState.CLAIMED)).isFalse();
    assertThat(ChangeState.UNSURE.mayBecome(ChangeState.QUEUED)).isFalse();
    assertThat(ChangeState.REFUSED.mayBecome(ChangeState.QUEUED)).isTrue();
    for (var over :
        List.of(
            ChangeState.SEEN, ChangeState.ACCEPTED, ChangeState.OVERTAKEN, ChangeState.WITHDRAWN)) {
      assertThat(over.isOver()).as(over.word()).isTrue();
    }
  }

  @Test
  public void whatTakesFromPeopleNeverReleasesItselfByADate() {
    for (var kind : ChangeKind.values()) {
      assertThat(Cause.DATE.releases(kind)).as(kind.word()).isEqualTo(!kind.isDestructive());
      assertThat(Cause.IMPORT.releases(kind)).as(kind.word()).isFalse();
      assertThat(Cause.SYNC.releases(kind)).as(kind.word()).isFalse();
    }
  }

  private static Draft create(int person, Integer manager) {
    var edits = new TreeMap<String, Edit>();
    edits.put("userName", new Edit(List.of(), Value.of("p" + person), "rule"));
    if (manager != null) {
      edits.put("manager", new Edit(List.of(), Value.accountOf(new PersonId(manager)), "rule"));
    }
    return new Draft(
        new PersonId(person), "app", null, new Step(ChangeKind.CREATE, edits, null, "rule", true));
  }
}
