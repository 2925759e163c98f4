package ebb.connectors;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowable;

import ebb.core.application.Connector;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Secret;
import ebb.core.application.Unreachable;
import ebb.core.application.Wire;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.testng.annotations.Test;

/** What every connector must do, tried against a server that speaks the real protocol. */
public abstract class ConnectorContract {
  /** Connects to a server that holds no accounts yet, and a group named "watch". */
  protected abstract Connector connector();

  /** Another connector to the same settings, where nothing listens any more. */
  protected abstract Connector toNobody();

  /** Signs in as a person would. */
  protected abstract boolean canSignIn(String userName, String password) throws Exception;

  /** Whether a deleted account stays, switched off. */
  protected boolean keepsDeleted() {
    return false;
  }

  private int numbers;

  @Test
  public void anAccountIsReadAsItWasWritten() throws Exception {
    var made = create("siobhán o’skerry, née \"Ælf\"+=#;", true);

    var read = connector().find(made.id()).orElseThrow();
    assertThat(read).isEqualTo(made);
    assertThat(read.texts("displayName")).containsExactly("siobhán o’skerry, née \"Ælf\"+=#;");
    assertThat(read.usable()).isTrue();
    assertThat(connector().findByExternalId(made.externalId())).contains(made);
    assertThat(all()).contains(made);
  }

  @Test
  public void creatingTwiceMakesOneAccount() throws Exception {
    var create = instruction("Twice", true);
    var first = applied(connector().apply(create));

    var second = connector().apply(create);

    assertThat(second)
        .isInstanceOfSatisfying(
            Outcome.AlreadyInPlace.class, same -> assertThat(same.account()).contains(first));
  }

  @Test
  public void aNameThatSomebodyElseHasIsRefusedWithARemedy() {
    var create = instruction("One", true);
    applied(connector().apply(create));
    var other = new Instruction.Create("ebb-other-" + numbers, true, create.values());

    assertThat(connector().apply(other))
        .isInstanceOfSatisfying(
            Outcome.Refused.class, refused -> assertThat(refused.problem().remedy()).isNotBlank());
  }

  @Test
  public void anUpdateChangesWhatItNamesAndNothingElse() {
    var made = create("Before", true);

    var changed =
        applied(
            connector()
                .apply(
                    new Instruction.Update(
                        made.id(),
                        new TreeMap<>(
                            Map.of("title", List.of("Bosun"), "displayName", List.of("After"))))));
    assertThat(changed.texts("title")).containsExactly("Bosun");
    assertThat(changed.texts("displayName")).containsExactly("After");
    assertThat(changed.texts("name.familyName")).isEqualTo(made.texts("name.familyName"));

    var emptied =
        applied(
            connector()
                .apply(
                    new Instruction.Update(made.id(), new TreeMap<>(Map.of("title", List.of())))));
    assertThat(emptied.texts("title")).isEmpty();
  }

  @Test
  public void aRenameKeepsTheAccount() {
    var made = create("Anna", true);

    var renamed =
        applied(
            connector()
                .apply(
                    new Instruction.Update(
                        made.id(),
                        new TreeMap<>(Map.of("userName", List.of("renamed" + numbers))))));

    assertThat(renamed.id()).isEqualTo(made.id());
    assertThat(renamed.texts("userName")).containsExactly("renamed" + numbers);
  }

  @Test
  public void aReferenceLeadsToTheAccount() {
    var boss = create("Boss", true);
    var create = instruction("Report", true);
    create.values().put("manager", List.of(boss.id()));

    assertThat(applied(connector().apply(create)).texts("manager")).containsExactly(boss.id());
  }

  @Test
  public void aPreparedAccountLetsNobodyInUntilItIsOpened() throws Exception {
    var made = create("Later", false);
    assertThat(made.usable()).isFalse();
    assertThat(
            connector()
                .apply(new Instruction.SetPassword(made.id(), new Secret("a-lantern-on-the-quay"))))
        .isInstanceOf(Outcome.Accepted.class);
    var name = made.texts("userName").getFirst();

    assertThat(canSignIn(name, "a-lantern-on-the-quay")).isFalse();
    applied(connector().apply(new Instruction.SetUsable(made.id(), true)));
    assertThat(canSignIn(name, "a-lantern-on-the-quay")).isTrue();
    assertThat(applied(connector().apply(new Instruction.SetUsable(made.id(), false))).usable())
        .isFalse();
    assertThat(canSignIn(name, "a-lantern-on-the-quay")).isFalse();
  }

  @Test
  public void aGroupIsJoinedAndLeftAsOftenAsAsked() {
    var made = create("Member", true);

    for (int i = 0; i < 2; i++) {
      assertThat(applied(connector().apply(new Instruction.Join(made.id(), "watch"))).groups())
          .containsExactly("watch");
    }
    for (int i = 0; i < 2; i++) {
      assertThat(applied(connector().apply(new Instruction.Leave(made.id(), "watch"))).groups())
          .isEmpty();
    }
  }

  @Test
  public void aDeletedAccountIsGoneAndDeletingAgainFindsItSo() throws Exception {
    var made = create("Leaver", true);
    applied(connector().apply(new Instruction.Join(made.id(), "watch")));

    assertThat(connector().apply(new Instruction.Delete(made.id())))
        .isInstanceOf(Outcome.Applied.class);
    assertThat(connector().find(made.id()).filter(ObservedAccount::usable)).isEmpty();
    if (!keepsDeleted()) {
      assertThat(connector().find(made.id())).isEmpty();
      assertThat(connector().apply(new Instruction.Delete(made.id())))
          .isInstanceOf(Outcome.AlreadyInPlace.class);
    }
  }

  @Test
  public void whatItSpellsOtherwiseItTakesForTheSame() throws Exception {
    var sent = instruction("Ida  Mary   HOLM", true);
    sent.values().put("userName", List.of("Ida.HOLM" + numbers));
    sent.values().put("phoneNumbers.mobile", List.of("+99 555 010 " + numbers));

    var seen = applied(connector().apply(sent));

    var can = connector().capabilities();
    assertThat(sent.values())
        .allSatisfy(
            (name, texts) ->
                assertThat(can.equalityOf(name).same(texts, seen.texts(name)))
                    .as("%s: sent %s, seen %s", name, texts, seen.texts(name))
                    .isTrue());
  }

  @Test
  public void saysWhatItCanDoAndFillsOnlyThat() throws Exception {
    var inspection = connector().inspect();

    assertThat(inspection.tried())
        .isNotEmpty()
        .allSatisfy(one -> assertThat(one.problem()).as(one.what()).isNull());
    var can = inspection.capabilities();
    assertThat(can.writable()).contains("userName", "displayName", "title", "manager");
    assertThat(can.required()).contains("userName");
    assertThat(can.equality().keySet()).isEqualTo(can.writable());
  }

  @Test
  public void whatIsSentIsNotedAndSecretsAreNot() {
    var notes = new ArrayList<Wire.Exchange>();
    var create = instruction("Noted", true);

    var made = applied(Wire.noting(notes, () -> connector().apply(create))).id();
    Wire.noting(
        notes,
        () -> connector().apply(new Instruction.SetPassword(made, new Secret("seven bells"))));

    assertThat(notes).hasSizeGreaterThanOrEqualTo(2);
    assertThat(notes.toString()).contains("Noted", "(secret)").doesNotContain("seven bells");
  }

  @Test
  public void inspectingWritesNothing() throws Exception {
    var before = all();

    connector().inspect();

    assertThat(all()).containsExactlyInAnyOrderElementsOf(before);
  }

  @Test
  public void readsMoreAccountsThanFitOnAPage() throws Exception {
    for (int i = 0; i < 130; i++) {
      create("Crowd", true);
    }

    assertThat(all()).hasSizeGreaterThanOrEqualTo(130).doesNotHaveDuplicates();
  }

  @Test
  public void aReadingGoesOnFromWhereTheOneBeforeEnded() throws Exception {
    create("Before", true);
    var first = new HashSet<String>();
    var mark = connector().read(null, account -> first.add(account.id())).mark();
    var made = create("After", true);
    var second = new HashSet<String>();

    connector().read(mark, account -> second.add(account.id()));

    assertThat(first).doesNotContain(made.id());
    assertThat(second).contains(made.id());
  }

  @Test
  public void oneLooksAtAllThatAnAccountHolds() throws Exception {
    var made = create("Looked at", true);

    assertThat(connector().details(made.id()).orElseThrow().values().values())
        .contains(List.of("Looked at"));
    assertThat(connector().details("00000000-0000-0000-0000-000000000000")).isEmpty();
  }

  @Test
  public void changingWhatIsNotThereIsRefused() {
    assertThat(
            connector()
                .apply(new Instruction.SetUsable("00000000-0000-0000-0000-000000000000", true)))
        .isInstanceOf(Outcome.Refused.class);
  }

  @Test
  public void whereNobodyAnswersNothingWasSent() {
    try (var nobody = toNobody()) {
      assertThat(nobody.apply(instruction("Nobody", true)))
          .isInstanceOfSatisfying(
              Outcome.RetryLater.class,
              later -> assertThat(later.problem().code()).isEqualTo("application-down"));
      assertThat(catchThrowable(() -> nobody.readAll(_ -> {}))).isInstanceOf(Unreachable.class);
    }
  }

  private List<ObservedAccount> all() throws Unreachable {
    var all = new ArrayList<ObservedAccount>();
    connector().readAll(all::add);
    return all;
  }

  private ObservedAccount create(String displayName, boolean usable) {
    return applied(connector().apply(instruction(displayName, usable)));
  }

  private Instruction.Create instruction(String displayName, boolean usable) {
    var number = ++numbers;
    return new Instruction.Create(
        "ebb-" + number,
        usable,
        new TreeMap<>(
            Map.of(
                "userName", List.of("person" + number),
                "displayName", List.of(displayName),
                "name.formatted", List.of(displayName),
                "name.givenName", List.of("Ida"),
                "name.familyName", List.of("Holm"),
                "title", List.of("Mate"))));
  }

  private static ObservedAccount applied(Outcome outcome) {
    assertThat(outcome).isInstanceOf(Outcome.Applied.class);
    return ((Outcome.Applied) outcome).account().orElseThrow();
  }
}
