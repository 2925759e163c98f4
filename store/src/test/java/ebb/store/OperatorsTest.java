package ebb.store;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.operator.Act;
import ebb.core.operator.Reach;
import ebb.core.operator.Role;
import ebb.core.person.PersonId;
import ebb.store.operators.Answered;
import ebb.store.operators.Operator;
import ebb.store.operators.Operators;
import ebb.store.operators.SignIns;
import ebb.store.operators.Tokens;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.Set;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

public class OperatorsTest {
  private static final Instant NOW = Instant.parse("2026-11-23T08:00:00Z");
  private static final Instant LATER = NOW.plus(Duration.ofHours(12));

  private final Operators operators = new Operators();
  private final SignIns signIns = new SignIns();
  private final Tokens tokens = new Tokens();
  private Database database;

  @BeforeMethod
  public void open() {
    database = TestDatabase.inMemory();
  }

  @Test
  public void anOperatorComesBackAsKept() {
    var reach = new Reach(Set.of("Deck", "Engine"), Set.of("employee"));
    keep(
        Operator.named("ines", Role.STEWARD, NOW)
            .granted(Role.STEWARD, reach, new PersonId(7), true, null)
            .withPassword("hash"));
    var read = get("ines");
    assertThat(read.role()).isEqualTo(Role.STEWARD);
    assertThat(read.reach()).isEqualTo(reach);
    assertThat(read.person()).isEqualTo(new PersonId(7));
    assertThat(read.discreet()).isTrue();
    assertThat(read.passwordHash()).isEqualTo("hash");
    assertThat(read.version()).isEqualTo(1);
  }

  @Test
  public void ofTwoEditsOnOneVersionTheSecondIsToldSo() {
    keep(Operator.named("ines", Role.STEWARD, NOW));
    var read = get("ines");
    boolean first = database.write(session -> operators.put(session, read.withPassword("one")));
    boolean second = database.write(session -> operators.put(session, read.withPassword("two")));
    assertThat(first).isTrue();
    assertThat(second).isFalse();
    assertThat(get("ines").passwordHash()).isEqualTo("one");
  }

  @Test
  public void onlyAdministratorsWhoAnswerForEverybodyAndMayStillWorkAreCounted() {
    keep(Operator.named("one", Role.ADMINISTRATOR, NOW));
    keep(
        Operator.named("narrowed", Role.ADMINISTRATOR, NOW)
            .granted(Role.ADMINISTRATOR, new Reach(Set.of("Deck"), Set.of()), null, false, null));
    keep(
        Operator.named("ended", Role.ADMINISTRATOR, NOW)
            .granted(Role.ADMINISTRATOR, Reach.EVERYBODY, null, false, NOW));
    keep(Operator.named("steward", Role.STEWARD, NOW));
    long count = database.read(operators::countAdministrators);
    assertThat(count).isEqualTo(1);
  }

  @Test
  public void aLinkIsGoodOnceUntilItsEndAndOnlyTheNewest() {
    database.writeAll(session -> operators.addLink(session, "ines", "old", LATER));
    database.writeAll(session -> operators.addLink(session, "ines", "new", LATER));
    assertThat(use("old", NOW)).isFalse();
    assertThat(use("new", LATER)).as("at its end it is over").isFalse();
    assertThat(linked("new")).contains("ines");
    assertThat(use("new", NOW)).isTrue();
    assertThat(use("new", NOW)).isFalse();
    assertThat(linked("new")).isEmpty();
  }

  @Test
  public void endingAllSignInsKeepsTheOneAskedFor() {
    database.writeAll(
        session -> {
          signIns.add(session, "here", "ines", NOW, LATER);
          signIns.add(session, "there", "ines", NOW, LATER);
          signIns.add(session, "other", "ottar", NOW, LATER);
          signIns.endAll(session, "ines", "here");
        });
    assertThat(signIn("here")).isPresent();
    assertThat(signIn("there")).isEmpty();
    assertThat(signIn("other")).isPresent();
  }

  @Test
  public void signInsThatAreOverAreDropped() {
    database.writeAll(
        session -> {
          signIns.add(session, "over", "ines", NOW, NOW.plusSeconds(1));
          signIns.add(session, "good", "ines", NOW, LATER);
          signIns.dropOver(session, NOW.plusSeconds(2));
        });
    assertThat(signIn("over")).isEmpty();
    assertThat(signIn("good")).isPresent();
  }

  @Test
  public void aTokenEndsByItsTimeOrByBeingRevoked() {
    var token =
        database.write(
            session -> tokens.add(session, "ines", "reports", Role.AUDITOR, "hash", NOW, LATER));
    assertThat(token.isGoodAt(NOW)).isTrue();
    assertThat(token.isGoodAt(LATER)).isFalse();
    boolean revoked = database.write(session -> tokens.revoke(session, token.id(), NOW));
    boolean again = database.write(session -> tokens.revoke(session, token.id(), NOW));
    assertThat(revoked).isTrue();
    assertThat(again).isFalse();
    var read = database.read(session -> tokens.byHash(session, "hash")).orElseThrow();
    assertThat(read.isGoodAt(NOW)).isFalse();
    assertThat(read.role()).isEqualTo(Role.AUDITOR);
  }

  @Test
  public void aTokensRoleTakesAwayAndNeverAdds() {
    var helpdesk = Operator.named("ines", Role.HELPDESK, NOW);
    assertThat(helpdesk.caller(null).may(Act.RESET)).isTrue();
    assertThat(helpdesk.caller(Role.AUDITOR).may(Act.EXPORT)).isFalse();
    assertThat(helpdesk.caller(Role.ADMINISTRATOR).may(Act.OPERATORS)).isFalse();
    assertThat(Operator.named("a", Role.ADMINISTRATOR, NOW).caller(Role.AUDITOR).may(Act.RELEASE))
        .isFalse();
  }

  private Optional<String> linked(String hash) {
    return database.read(session -> operators.linked(session, hash, NOW));
  }

  private Optional<SignIns.SignIn> signIn(String hash) {
    return database.read(session -> signIns.get(session, hash));
  }

  private boolean use(String hash, Instant at) {
    return database.write(session -> operators.useLink(session, hash, at));
  }

  private void keep(Operator operator) {
    database.writeAll(session -> operators.put(session, operator));
  }

  @Test
  public void anAnswerIsForgottenInTimeAndItsKeyIsFreeAgain() {
    var answered = new Answered();
    database.writeAll(session -> answered.begin(session, "ann", "old", "print", NOW));
    database.writeAll(
        session -> answered.begin(session, "ann", "new", "print", NOW.plusSeconds(60)));

    var forgotten = database.write(session -> answered.forget(session, NOW.plusSeconds(30), 10));

    assertThat(forgotten).isEqualTo(1);
    var old = database.read(session -> answered.get(session, "ann", "old"));
    var kept = database.read(session -> answered.get(session, "ann", "new"));
    assertThat(old).isEmpty();
    assertThat(kept).isPresent();
  }

  private Operator get(String name) {
    return database.read(session -> operators.get(session, name)).orElseThrow();
  }
}
