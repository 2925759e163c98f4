package ebb.store;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.change.Cause;
import ebb.core.change.ChangeSet;
import ebb.core.rule.Rule;
import ebb.core.rule.RuleEdit;
import ebb.store.changes.ChangeSets;
import ebb.store.rules.Rules;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** Rules, and edits of them that wait with a set. */
public class RulesTest {
  private static final Instant NOW = Instant.parse("2026-11-28T10:00:00Z");

  private final Rules rules = new Rules();
  private final ChangeSets changeSets = new ChangeSets();
  private Database database;

  @BeforeMethod
  void open() {
    database = TestDatabase.inMemory();
  }

  @AfterMethod
  void close() {
    database.close();
  }

  private static Rule rule(String condition) {
    return new Rule("deck", "directory", condition, null, null, null, null, 0, null, null, null);
  }

  /** A set with an edit of the rule. */
  private long proposed(Rule edited, long version) {
    return database.write(
        session -> {
          var id = changeSets.number(session);
          changeSets.insert(
              session,
              ChangeSet.begun(id, Cause.RULE, "rule deck", null, "ida", NOW)
                  .shown(List.of(), List.of()));
          rules.propose(session, id, List.of(new RuleEdit("deck", edited, version, null)));
          return id;
        });
  }

  private List<String> takeIn(long set) {
    return database.write(session -> rules.takeIn(session, set));
  }

  private List<Rule> inForce() {
    return database.read(rules::inForce);
  }

  private Rules.Sides sides(Long set) {
    return database.read(session -> rules.sides(session, set));
  }

  private Optional<Long> waitingIn() {
    return database.read(session -> rules.waitingIn(session, "deck"));
  }

  private List<RuleEdit> reverting(long set) {
    return database.read(session -> rules.reverting(session, set));
  }

  private List<Long> unsettled() {
    return database.read(rules::unsettled);
  }

  @Test
  public void anEditIsSeenByItsOwnSetAloneUntilItIsTakenIn() {
    var set = proposed(rule("true"), 0);

    assertThat(inForce()).isEmpty();
    assertThat(sides(set).with()).containsExactly(rule("true"));
    assertThat(sides(set).without()).isEmpty();
    assertThat(sides(null).differ()).isFalse();
    assertThat(waitingIn()).contains(set);

    assertThat(takeIn(set)).isEmpty();
    assertThat(inForce()).containsExactly(rule("true"));
    assertThat(waitingIn()).isEmpty();
    assertThat(sides(set).without()).as("as if it had never been made").isEmpty();
  }

  @Test
  public void anEditOfARuleThatIsAnotherByNowIsNotTakenIn() {
    var first = proposed(rule("true"), 0);
    var second = proposed(rule("false"), 0);
    takeIn(first);

    assertThat(takeIn(second)).containsExactly("deck");
    assertThat(inForce()).containsExactly(rule("true"));
  }

  @Test
  public void whatASetMadeOfARuleIsTakenBackUnlessItWasEditedSince() {
    takeIn(proposed(rule("true"), 0));
    var second = proposed(rule("false"), 1);
    takeIn(second);
    assertThat(reverting(second)).containsExactly(new RuleEdit("deck", rule("true"), 2, null));

    var third = proposed(null, 2);
    takeIn(third);
    assertThat(inForce()).isEmpty();
    assertThat(reverting(second)).isEmpty();
    assertThat(reverting(third)).containsExactly(new RuleEdit("deck", rule("false"), 0, null));
  }

  @Test
  public void whatIsInForceIsUnsettledUntilEveryoneWasLookedAt() {
    var set = proposed(rule("true"), 0);
    assertThat(unsettled()).isEmpty();
    takeIn(set);
    assertThat(unsettled()).containsExactly(set);
    database.writeAll(session -> rules.settled(session, set));
    assertThat(unsettled()).isEmpty();
  }
}
