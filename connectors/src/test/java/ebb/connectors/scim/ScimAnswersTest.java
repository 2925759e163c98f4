package ebb.connectors.scim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ebb.core.application.Connector;
import ebb.core.application.Equality;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.ObservedGroup;
import ebb.core.application.Outcome;
import ebb.core.application.Secret;
import ebb.core.application.Secrets;
import ebb.core.application.Sightings;
import ebb.core.application.Unreachable;
import ebb.core.application.Wire;
import ebb.standins.Faults.Kind;
import ebb.standins.MailHouse;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.testng.annotations.AfterClass;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What becomes of an instruction when something is amiss, and what is sent when nothing is. */
public class ScimAnswersTest {
  private MailHouse house;
  private Connector connector;

  @BeforeClass
  void open() throws IOException {
    house = new MailHouse(0, "token");
    house.accounts().addGroup("watch");
    connector = with(Map.of("patience", "2"));
  }

  @AfterClass
  void close() {
    connector.close();
    house.close();
  }

  private Map<String, String> settings() {
    return Map.of("address", house.scim(), "network", "internal");
  }

  @AfterMethod
  void wellAgain() {
    house.faults().clear();
  }

  @DataProvider
  Object[][] faults() {
    return new Object[][] {
      {Kind.UNAVAILABLE, Outcome.RetryLater.class, false},
      {Kind.BUSY_FOR_A_SECOND, Outcome.RetryLater.class, false},
      {Kind.BUSY_UNTIL, Outcome.RetryLater.class, false},
      {Kind.TOO_MANY, Outcome.RetryLater.class, false},
      {Kind.TOKEN_EXPIRED, Outcome.RetryLater.class, false},
      {Kind.CUT_BEFORE_WRITE, Outcome.Unknown.class, false},
      {Kind.HTML, Outcome.Unknown.class, false},
      {Kind.CUT_AFTER_WRITE, Outcome.Unknown.class, true},
      {Kind.FAILS_AFTER_WRITE, Outcome.Unknown.class, true},
      {Kind.TRUNCATED, Outcome.Unknown.class, true},
      {Kind.HANG, Outcome.Unknown.class, true},
      {Kind.WRONG_VERSION, Outcome.Applied.class, true},
    };
  }

  @Test(dataProvider = "faults")
  public void tellsWhatMayHaveHappenedFromWhatCannot(
      Kind fault, Class<?> expected, boolean isWritten) throws Exception {
    house.faults().order(fault, "POST /scim/v2/Users", 1);
    var name = "fault-" + fault;

    var outcome = connector.apply(create(name));

    assertThat(outcome).isInstanceOf(expected);
    assertThat(house.accounts().byName(name) != null).isEqualTo(isWritten);
    if (outcome instanceof Outcome.RetryLater later) {
      assertThat(later.problem().remedy()).isNotBlank();
      switch (fault) {
        case TOO_MANY, BUSY_FOR_A_SECOND ->
            assertThat(later.after()).isEqualTo(Duration.ofSeconds(1));
        case BUSY_UNTIL ->
            assertThat(later.after()).isBetween(Duration.ZERO, Duration.ofSeconds(2));
        default -> assertThat(later.after()).isNull();
      }
    }
    assertThat(connector.apply(create(name)))
        .isInstanceOf(isWritten ? Outcome.AlreadyInPlace.class : Outcome.Applied.class);
    assertThat(house.journal())
        .filteredOn(
            write ->
                write.what().equals("POST /scim/v2/Users")
                    && write.sent().path("userName").asText().equals(name))
        .as("one effect")
        .hasSize(1);
  }

  @Test
  public void findsWhatALostAnswerHadMade() throws Unreachable {
    house.faults().order(Kind.CUT_AFTER_WRITE, "POST /scim/v2/Users", 1);
    connector.apply(create("lost-answer"));

    assertThat(connector.findByExternalId("ebb-lost-answer")).isPresent();
    assertThat(connector.apply(create("lost-answer"))).isInstanceOf(Outcome.AlreadyInPlace.class);
  }

  @Test
  public void takesEqualityFromTheSchemas() throws Unreachable {
    var capabilities = connector.capabilities();

    assertThat(capabilities.equalityOf("displayName")).isEqualTo(Equality.IGNORE_CASE_AND_SPACE);
    assertThat(capabilities.equalityOf("employeeNumber")).isEqualTo(Equality.EXACT);
  }

  @Test
  public void keepsAddressesOfOtherTypesWhenOneChanges() {
    var made =
        (Outcome.Applied)
            connector.apply(
                create(
                    "addresses",
                    "emails.work",
                    "new@skerrow.example",
                    "emails.other",
                    "old@skerrow.example"));
    var id = made.account().orElseThrow().id();

    var changed =
        (Outcome.Applied)
            connector.apply(
                new Instruction.Update(
                    id, new TreeMap<>(Map.of("emails.work", List.of("newer@skerrow.example")))));

    assertThat(changed.account().orElseThrow().texts("emails.work"))
        .containsExactly("newer@skerrow.example");
    assertThat(changed.account().orElseThrow().texts("emails.other"))
        .containsExactly("old@skerrow.example");
  }

  @Test
  public void aWrongTokenIsSaidAndWaits() {
    try (var stranger = ScimConnector.open("house", settings(), Secrets.token("wrong"), 8)) {
      assertThat(stranger.apply(create("stranger")))
          .isInstanceOfSatisfying(
              Outcome.RetryLater.class,
              later -> assertThat(later.problem().code()).isEqualTo("application-knows-us-not"));
    }
  }

  @Test
  public void anAccountThatIsShownLaterIsNotTakenForLost() throws Exception {
    var slow = with(Map.of("settles", "1"));
    house.manners().settling(Duration.ofMillis(400));
    try (slow) {
      var outcome = slow.apply(create("shown-later"));
      assertThat(outcome)
          .isInstanceOfSatisfying(
              Outcome.NotSeenYet.class,
              later -> assertThat(later.after()).isEqualTo(Duration.ofSeconds(1)));
      assertThat(slow.apply(create("shown-later")))
          .as("the name is taken, by nobody who is shown")
          .isInstanceOf(Outcome.Unknown.class);

      Thread.sleep(500);

      assertThat(slow.apply(create("shown-later"))).isInstanceOf(Outcome.AlreadyInPlace.class);
    } finally {
      house.manners().settling(Duration.ZERO);
    }
  }

  @Test
  public void oneMemberIsAddedToAGroupOfFiftyThousand() throws Exception {
    house.accounts().addGroup("everybody");
    house.accounts().addStrangers("everybody", 50_000);
    var id = made(connector.apply(create("one-of-many")));
    var exchanges = new ArrayList<Wire.Exchange>();

    var joined =
        Wire.noting(exchanges, () -> connector.apply(new Instruction.Join(id, "everybody")));

    assertThat(joined).isInstanceOf(Outcome.Applied.class);
    assertThat(house.accounts().groupsOf(id)).containsExactly("everybody");
    assertThat(exchanges)
        .allSatisfy(one -> assertThat(one.request().length()).isLessThan(400))
        .allSatisfy(one -> assertThat(one.answer().length()).isLessThan(1_500));
  }

  @Test
  public void aReadingShowsGroupsAndWhoInThemIsNoAccount() throws Exception {
    house.accounts().addGroup("quay");
    house.accounts().addStrangers("quay", 3);
    var id = made(connector.apply(create("on-the-quay")));
    assertThat(connector.apply(new Instruction.Join(id, "quay")))
        .isInstanceOf(Outcome.Applied.class);
    var groups = new TreeMap<String, ObservedGroup>();

    connector.read(
        null,
        new Sightings() {
          @Override
          public void account(ObservedAccount account) {}

          @Override
          public void group(ObservedGroup group) {
            groups.put(group.name(), group);
          }
        });

    assertThat(groups.get("quay").strangers())
        .containsExactly("stranger-0", "stranger-1", "stranger-2");
    assertThat(groups.get("quay").inner()).isEmpty();
  }

  @Test
  public void allThatAnApplicationShowsOfAnAccountIsToldWithWhenItChanged() throws Exception {
    var id = made(connector.apply(create("in-full")));

    var details = connector.details(id).orElseThrow();

    assertThat(details.values())
        .containsEntry("userName", List.of("in-full"))
        .containsKey("active");
    assertThat(details.values()).doesNotContainKeys("schemas", "meta");
    assertThat(details.changedAt()).isNotNull();
  }

  @Test
  public void aListThatRepeatsAPageIsNotReadForEver() {
    for (int i = 0; i < 120; i++) {
      house.accounts().add("page" + i);
    }
    house.faults().order(Kind.PAGE_REPEATS, "GET /scim/v2/Users", 2);

    assertThatThrownBy(() -> connector.readAll(_ -> {}))
        .isInstanceOfSatisfying(
            Unreachable.class, e -> assertThat(e.problem().code()).isEqualTo("list-repeats"));
  }

  @Test
  public void whatTheSchemaDoesNotHaveIsRefusedBeforeItIsSent() {
    var writes = house.writes().size();

    assertThat(connector.apply(create("odd", "shoeSize", "42")))
        .isInstanceOfSatisfying(
            Outcome.Refused.class,
            refused -> assertThat(refused.problem().code()).isEqualTo("attribute-unknown"));
    assertThat(
            connector.apply(
                new Instruction.Create(
                    "ebb-none", true, new TreeMap<>(Map.of("title", List.of("Mate"))))))
        .isInstanceOfSatisfying(
            Outcome.Refused.class,
            refused -> assertThat(refused.problem().code()).isEqualTo("attribute-missing"));
    assertThat(house.writes()).hasSize(writes);
  }

  @Test
  public void extensionsRolesAndNumbersAreFilledAsTheSchemaHasThem() throws Exception {
    var can = connector.capabilities();
    assertThat(can.writable()).contains("room", "mailQuota", "roles", "entitlements", "division");
    assertThat(can.writable()).doesNotContain("enteredBy", "groups", "active", "password");

    var create = create("extended", "room", "B 12", "mailQuota", "5000");
    create.values().put("roles", List.of("harbour-master", "auditor"));
    var id = made(connector.apply(create));

    var kept = house.accounts().byName("extended");
    var own = kept.path("urn:skerrow:params:scim:schemas:extension:house:1.0:User");
    assertThat(own.path("room").asText()).isEqualTo("B 12");
    assertThat(own.path("mailQuota").isIntegralNumber()).isTrue();
    assertThat(kept.path("roles").get(0).path("primary").asBoolean()).isTrue();
    assertThat(kept.path("schemas").toString()).contains("extension:house");
    var changed =
        connector.apply(
            new Instruction.Update(
                id,
                new TreeMap<>(
                    Map.of(
                        "roles",
                        List.of("auditor"),
                        "room",
                        List.of(),
                        "division",
                        List.of("Deck")))));
    assertThat(((Outcome.Applied) changed).account().orElseThrow().values())
        .containsEntry("roles", List.of("auditor"))
        .containsEntry("division", List.of("Deck"))
        .doesNotContainKey("room");
  }

  @Test
  public void aPasswordIsSentAndNotNoted() throws Exception {
    var id = made(connector.apply(create("secretive")));
    var exchanges = new ArrayList<Wire.Exchange>();

    var outcome =
        Wire.noting(
            exchanges,
            () -> connector.apply(new Instruction.SetPassword(id, new Secret("seven bells"))));

    assertThat(outcome).isInstanceOf(Outcome.Accepted.class);
    assertThat(exchanges).singleElement().asString().contains("(secret)").doesNotContain("bells");
  }

  @Test
  public void whoChangedMeanwhileIsReadAgain() throws Exception {
    var id = made(connector.apply(create("met", "emails.work", "met@skerrow.example")));
    house.faults().order(Kind.WRONG_VERSION, "GET /scim/v2/Users/" + id, 1);

    assertThat(
            connector.apply(
                new Instruction.Update(
                    id, new TreeMap<>(Map.of("emails.work", List.of("met2@skerrow.example"))))))
        .isInstanceOfSatisfying(
            Outcome.Met.class,
            met -> assertThat(met.problem().code()).isEqualTo("changed-meanwhile"));
  }

  private Connector with(Map<String, String> more) {
    var all = new TreeMap<>(settings());
    all.putAll(more);
    return ScimConnector.open("house", all, Secrets.token("token"), 8);
  }

  private static String made(Outcome outcome) {
    return ((Outcome.Applied) outcome).account().orElseThrow().id();
  }

  private static Instruction.Create create(String name, String... more) {
    var values = new TreeMap<>(Map.of("userName", List.of(name)));
    for (int i = 0; i < more.length; i += 2) {
      values.put(more[i], List.of(more[i + 1]));
    }
    return new Instruction.Create("ebb-" + name, true, values);
  }
}
