package ebb.core.change;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.Chance;
import ebb.core.application.Capabilities;
import ebb.core.application.Value;
import ebb.core.change.Needs.Draft;
import ebb.core.compare.Edit;
import ebb.core.person.PersonId;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.testng.annotations.Test;

public class NeedsTest {
  @Test
  public void aReportIsCreatedAfterTheManagerWhateverTheOrder() {
    var ordered = order(List.of(create(1, 2), create(2, null)));

    assertThat(ordered.firsts()).isEqualTo(Map.of(0L, Set.of(1L)));
    assertThat(ordered.splits()).isEmpty();
  }

  @Test
  public void aRingIsBrokenByAReferenceThatFollows() {
    var ordered = order(List.of(create(1, 2), create(2, 1)));

    assertThat(ordered.firsts()).isEqualTo(Map.of(0L, Set.of(1L)));
    assertThat(ordered.splits())
        .containsExactly(new Needs.Split(1, new TreeSet<>(Set.of("manager")), Set.of(0L)));
  }

  @Test
  public void oneWhoIsTheirOwnManagerIsCreatedFirst() {
    var ordered = order(List.of(create(1, 1)));

    assertThat(ordered.firsts()).isEmpty();
    assertThat(ordered.splits()).hasSize(1);
  }

  @Test
  public void whatASplitKeepsAndWhatFollowsAreAllThereWas() {
    var edits = create(1, 2).step().edits();
    var references = new TreeSet<>(Set.of("manager"));

    assertThat(Needs.without(edits, references)).containsOnlyKeys("userName");
    assertThat(Needs.only(edits, references)).containsOnlyKeys("manager");
  }

  @Test
  public void anythingWithAnyManagersCanBeCarriedOut() {
    var random = Chance.random(3);
    int rings = 0;
    for (int run = 0; run < 300; run++) {
      var drafts = new ArrayList<Draft>();
      for (int person = 0; person < 12; person++) {
        drafts.add(create(person, random.nextInt(12)));
        drafts.add(
            new Draft(new PersonId(person), "app", null, Step.group(ChangeKind.JOIN, "g", "rule")));
      }
      var ordered = order(drafts);
      var firsts = new HashMap<>(ordered.firsts());
      long follow = drafts.size();
      for (var split : ordered.splits()) {
        var all = new HashSet<>(split.accountsOf());
        all.add(split.create());
        firsts.put(follow++, all);
      }
      var done = new HashSet<Long>();
      for (boolean moved = true; moved; ) {
        moved = false;
        for (long i = 0; i < follow; i++) {
          if (!done.contains(i) && done.containsAll(firsts.getOrDefault(i, Set.of()))) {
            moved = done.add(i);
          }
        }
      }
      assertThat(done).as("run %d", run).hasSize((int) follow);
      rings += ordered.splits().isEmpty() ? 0 : 1;
    }
    assertThat(rings).as("runs with rings of managers").isGreaterThan(100);
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
      assertThat(Cause.CORRECTION.releases(kind) && kind.isDestructive()).as(kind.word()).isFalse();
    }
    assertThat(Cause.CORRECTION.releases(ChangeKind.UPDATE)).isTrue();
    assertThat(Cause.CORRECTION.releases(ChangeKind.SUSPEND)).isFalse();
  }

  @Test
  public void whatAnApplicationWillRefuseIsCountedBeforeItIsSent() {
    var app =
        new Capabilities(
                Set.of(), Set.of("userName", "title"), Map.of(), Set.of(), 0, Duration.ZERO)
            .denying(Set.of("phone"));
    var needs = new Needs(name -> name.equals("app") ? app : Capabilities.UNKNOWN);
    needs.add(1, create(1, null));
    needs.add(2, create(2, null));
    needs.add(3, update(3, "title", Value.NOTHING));
    needs.add(4, update(4, "title", Value.of("Mate")));
    needs.add(5, update(5, "phone", Value.NOTHING));

    assertThat(needs.lacking()).isEqualTo(Map.of("app", Map.of("title", 3L)));
    assertThat(needs.forbidden()).isEqualTo(Map.of("app", Map.of("phone", 1L)));
  }

  private static Draft update(int person, String attribute, Value value) {
    var edits = new TreeMap<>(Map.of(attribute, new Edit(List.of("before"), value, "rule")));
    return new Draft(
        new PersonId(person), "app", 7L, new Step(ChangeKind.UPDATE, edits, null, "rule", false));
  }

  private static Needs.Ordered order(List<Draft> drafts) {
    var needs = new Needs(_ -> Capabilities.UNKNOWN);
    for (int i = 0; i < drafts.size(); i++) {
      needs.add(i, drafts.get(i));
    }
    return needs.ordered();
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
