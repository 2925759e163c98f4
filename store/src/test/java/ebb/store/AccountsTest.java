package ebb.store;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.application.Application;
import ebb.core.application.GroupMark;
import ebb.core.application.Level;
import ebb.core.application.ObservedAccount;
import ebb.core.application.ObservedGroup;
import ebb.core.change.Finding;
import ebb.core.imports.Print;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.store.applications.Account;
import ebb.store.applications.AccountPress;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.applications.Drifts;
import ebb.store.applications.GroupMarks;
import ebb.store.applications.Groups;
import ebb.store.applications.Holders;
import ebb.store.applications.LeftAlone;
import ebb.store.applications.Likely;
import ebb.store.applications.SyncRun;
import ebb.store.applications.SyncRuns;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** Accounts as they were seen, their groups, and when they were read. */
public class AccountsTest {
  private static final Instant NOW = Instant.parse("2027-03-01T12:00:00Z");
  private static final String APP = "harbour";

  private final Accounts accounts = new Accounts();
  private final Groups groups = new Groups();
  private final Drifts drifts = new Drifts();
  private final SyncRuns runs = new SyncRuns();
  private Database database;

  @BeforeMethod
  void open() {
    database = TestDatabase.inMemory();
  }

  @AfterMethod
  void close() {
    database.close();
  }

  @Test
  public void allOfAnApplicationAreGoneThroughOnceHoweverMany() {
    database.writeAll(
        session ->
            accounts.addAll(
                session,
                LongStream.rangeClosed(1, 2_500)
                    .mapToObj(id -> account(id, id % 2 == 0 ? new PersonId(id) : null))
                    .toList()));
    database.writeAll(session -> accounts.addAll(session, List.of(other(9_000, "elsewhere"))));
    var ids = new ArrayList<Long>();

    database.read(
        session -> {
          accounts.each(session, APP, (id, _, _, _) -> ids.add(id));
          return null;
        });

    assertThat(ids).hasSize(2_500).doesNotHaveDuplicates();
  }

  @Test
  public void thePrintThatIsKeptIsThatOfWhatWasSeen() {
    var account = account(1, null, "watch", "crew");
    database.writeAll(session -> accounts.addAll(session, List.of(account)));
    var kept = new ArrayList<Print>();

    database.read(
        session -> {
          accounts.each(session, APP, (_, _, _, print) -> kept.add(print));
          return null;
        });

    assertThat(kept).containsExactly(new AccountPress().of(account.observed()));
  }

  @Test
  public void accountsThatLookDifferentHaveDifferentPrints() {
    var looks =
        List.of(
            looks(null, true, Map.of(), Set.of(), Set.of()),
            looks("", true, Map.of(), Set.of(), Set.of()),
            looks(null, false, Map.of(), Set.of(), Set.of()),
            looks(null, true, Map.of("title", List.of()), Set.of(), Set.of()),
            looks(null, true, Map.of("title", List.of("a", "b")), Set.of(), Set.of()),
            looks(null, true, Map.of("title", List.of("ab")), Set.of(), Set.of()),
            looks(null, true, Map.of("titlea", List.of("b")), Set.of(), Set.of()),
            looks(null, true, Map.of(), Set.of("a"), Set.of()),
            looks(null, true, Map.of(), Set.of(), Set.of("a")));
    var press = new AccountPress();

    assertThat(looks.stream().map(press::of)).doesNotHaveDuplicates();
    assertThat(press.of(looks.getFirst())).isEqualTo(new AccountPress().of(looks.getFirst()));
  }

  private static ObservedAccount looks(
      String origin,
      boolean usable,
      Map<String, List<String>> values,
      Set<String> groups,
      Set<String> seats) {
    return new ObservedAccount(
        "r-1", origin, usable, new TreeMap<>(values), new TreeSet<>(groups), new TreeSet<>(seats));
  }

  @Test
  public void eachAccountIsFoundUnderWhatItIs() {
    var technical = account(3, null).leftAlone(new LeftAlone("runs the lights", "ann", NOW));
    var gone = account(4, null).seen(Level.GONE, account(4, null).observed(), NOW);
    var doubtful =
        account(5, null).likely(List.of(new Likely(new PersonId(9), List.of("same name"), false)));
    var duplicate =
        account(6, null).likely(List.of(new Likely(new PersonId(2), List.of("same name"), true)));
    var unmatched = account(7, null).likely(List.of());
    database.writeAll(
        session ->
            accounts.addAll(
                session,
                List.of(
                    account(1, null),
                    account(2, new PersonId(2)),
                    technical,
                    gone,
                    doubtful,
                    duplicate,
                    unmatched)));

    assertThat(found(Finding.UNLOOKED)).containsExactly(1L);
    assertThat(found(Finding.LEFT_ALONE)).containsExactly(3L);
    assertThat(found(Finding.DOUBTFUL)).containsExactly(5L);
    assertThat(found(Finding.DUPLICATE)).containsExactly(6L);
    assertThat(found(Finding.UNMATCHED)).containsExactly(7L);
    assertThat(List.of(stored(3), stored(5))).containsExactly(technical, doubtful);
  }

  @Test
  public void whoseAnAccountMayBeIsLookedAtAgainOnceItChanges() {
    var before = account(1, null).likely(List.of());
    database.writeAll(session -> accounts.addAll(session, List.of(before)));

    database.writeAll(
        session ->
            accounts.put(session, stored(1).seen(Level.ACTIVE, account(2, null).observed(), NOW)));

    assertThat(found(Finding.UNLOOKED)).containsExactly(1L);
  }

  @Test
  public void whatWasDecidedMeanwhileStaysWhereAnAccountIsPlaced() {
    var linked = account(1, null);
    var leftAlone = account(2, null);
    var changed = account(3, null);
    var same = account(4, null);
    database.writeAll(
        session -> accounts.addAll(session, List.of(linked, leftAlone, changed, same)));
    var likely = List.of(new Likely(new PersonId(9), List.of("same name"), false));
    database.writeAll(
        session -> {
          accounts.put(session, linked.of(new PersonId(7)));
          accounts.put(session, leftAlone.leftAlone(new LeftAlone("a lamp", "ann", NOW)));
          accounts.put(session, changed.seen(Level.ACTIVE, account(5, null).observed(), NOW));
        });

    database.writeAll(
        session ->
            accounts.place(
                session,
                List.of(
                    linked.likely(likely),
                    leftAlone.likely(likely),
                    changed.likely(likely),
                    same.of(new PersonId(8)))));

    assertThat(stored(1).person()).isEqualTo(new PersonId(7));
    assertThat(found(Finding.LEFT_ALONE)).containsExactly(2L);
    assertThat(found(Finding.UNLOOKED)).containsExactly(3L);
    assertThat(found(Finding.DOUBTFUL)).isEmpty();
    assertThat(stored(4).person()).isEqualTo(new PersonId(8));
  }

  @Test
  public void accountsOfAKindAreCountedNoFurtherThanAsked() {
    database.writeAll(
        session ->
            accounts.addAll(
                session, LongStream.rangeClosed(1, 8).mapToObj(id -> account(id, null)).toList()));

    assertThat(database.<Long>read(session -> accounts.count(session, APP, Finding.UNLOOKED, 5)))
        .isEqualTo(6);
  }

  @Test
  public void whoIsInAGroupWithinAGroupIsInThatAsWell() {
    var holders = new Holders();
    var marks = new GroupMarks();
    database.writeAll(
        session -> {
          groups.put(session, APP, group("keys", "all hands"));
          groups.put(session, APP, group("all hands", "watch", "keys"));
          groups.put(session, APP, group("watch"));
          groups.put(session, APP, group("galley"));
          groups.put(session, "other", group("watch"));
          accounts.addAll(
              session,
              List.of(
                  account(1, new PersonId(11), "watch"),
                  account(2, new PersonId(12), "keys", "watch"),
                  account(3, new PersonId(13), "galley")));
          marks.put(session, new GroupMark("keys", null, null, 1), "ida", NOW);
          marks.put(session, new GroupMark("galley", null, null, 1), "ida", NOW);
        });

    List<Long> inKeys =
        database.read(session -> holders.of(session, "keys", Reach.EVERYBODY, 0, 10));
    assertThat(inKeys).containsExactly(1L, 2L);
    var reached = database.read(session -> holders.reached(session, "keys"));
    assertThat(reached.accounts()).isEqualTo(2);
    List<GroupMarks.Crowded> crowded = database.read(session -> marks.crowded(session, 10));
    assertThat(crowded).containsExactly(new GroupMarks.Crowded("keys", APP, 2, 1));
    var around = database.read(session -> groups.nesting(session, APP)).around(Set.of("watch"));
    assertThat(around).containsOnlyKeys("all hands", "keys");
    var empty = database.read(session -> holders.empty(session, null, 10)).items();
    assertThat(empty)
        .extracting(Holders.Named::name)
        .as("nobody is in it but by another")
        .doesNotContain("all hands");
  }

  private static ObservedGroup group(String name, String... inner) {
    return new ObservedGroup(
        "g " + name, name, List.of(), new TreeSet<>(List.of(inner)), new TreeSet<>());
  }

  @Test
  public void whoIsInAGroupFollowsTheAccounts() {
    var group =
        new ObservedGroup(
            "g-1", "watch", List.of("r-1"), new TreeSet<>(Set.of("crew")), new TreeSet<>());
    var grounds = new TreeMap<>(Map.of("watch", "rule"));
    database.writeAll(
        session -> {
          groups.put(session, APP, group);
          accounts.addAll(
              session,
              List.of(account(1, null, "watch").grounds(grounds), account(2, null, "watch")));
        });
    assertThat(counted()).isEqualTo(new Groups.Counted(group, 2, 1, null));

    database.writeAll(
        session -> {
          accounts.put(session, account(1, null, "watch"));
          accounts.put(session, account(2, null));
          accounts.put(session, account(3, null, "watch").grounds(grounds));
        });
    assertThat(counted()).isEqualTo(new Groups.Counted(group, 2, 1, null));
    assertThat(inWatch()).containsExactlyInAnyOrder(1L, 3L);

    database.writeAll(
        session -> {
          accounts.put(
              session,
              account(3, null).seen(Level.GONE, account(3, null, "watch").observed(), NOW));
          groups.remove(session, APP, "g-1");
        });
    assertThat(inWatch()).containsExactly(1L);
    assertThat(groups()).isEmpty();
  }

  private Groups.Counted counted() {
    return groups().getFirst();
  }

  private List<Groups.Counted> groups() {
    return database.read(session -> groups.list(session, APP, null, 10).items());
  }

  private List<Long> inWatch() {
    return database.read(session -> groups.accountsIn(session, APP, "watch"));
  }

  private List<Long> found(Finding kind) {
    return database.read(
        session ->
            accounts.list(session, APP, kind, Reach.EVERYBODY, null, 10).items().stream()
                .map(Account::id)
                .toList());
  }

  private Account stored(long id) {
    return database.read(session -> accounts.get(session, id)).orElseThrow();
  }

  private Set<PersonId> drifting(long after) {
    return database.read(session -> drifts.people(session, APP, new PersonId(after), 10));
  }

  private List<SyncRun> going() {
    return database.read(runs::going);
  }

  private String mark() {
    return database.read(session -> runs.mark(session, APP));
  }

  @Test
  public void whoDriftedIsRememberedUntilAllIsWell() {
    var all = List.of(new PersonId(1), new PersonId(2), new PersonId(3));
    keep(all, Set.of(new PersonId(1), new PersonId(3)));
    keep(all, Set.of(new PersonId(3)));
    keep(List.of(new PersonId(2)), Set.of());

    assertThat(drifting(0)).containsExactly(new PersonId(3));
    assertThat(drifting(3)).isEmpty();
    assertThat(drifting(0).size()).isEqualTo(1);
  }

  @Test
  public void whatIsDoneWhileSomebodyIsLookedAtHasThemLookedAtAgain() {
    var who = List.of(new PersonId(1), new PersonId(2));
    keep(who, Set.copyOf(who));
    database.writeAll(session -> drifts.lookAgain(session, APP, who));

    database.writeAll(session -> drifts.looking(session, APP, who));
    database.writeAll(session -> drifts.lookAgain(session, APP, List.of(new PersonId(2))));
    keep(who, Set.copyOf(who));

    var toLookAt = database.read(session -> drifts.toLookAt(session, APP, new PersonId(0), 10));
    assertThat(toLookAt).containsExactly(new PersonId(2));
  }

  @Test
  public void aValueThatComesBackIsCountedUntilItIsForgotten() {
    var person = new PersonId(1);
    keep(List.of(person), Set.of(person));
    keep(List.of(person), Set.of(person));

    for (int i = 0; i < 3; i++) {
      keep(List.of(person), Set.of());
      keep(List.of(person), Set.of(person));
    }

    assertThat(quarrels(3)).containsExactly(new Drifts.Quarrel(person, "title", NOW, 3));
    assertThat(quarrels(4)).isEmpty();
    keep(List.of(person), Set.of());
    assertThat(quarrels(0)).as("as it should be").isEmpty();

    database.writeAll(session -> drifts.forget(session, APP, NOW.plusSeconds(1)));
    keep(List.of(person), Set.of(person));
    assertThat(quarrels(0)).extracting(Drifts.Quarrel::times).containsExactly(0);
  }

  private List<Drifts.Quarrel> quarrels(int least) {
    return database.read(session -> drifts.quarrels(session, APP, least, 10));
  }

  private void keep(List<PersonId> who, Set<PersonId> drifting) {
    var all =
        drifting.stream()
            .collect(
                Collectors.toMap(
                    person -> person,
                    _ -> new Drifts.Drift(Finding.DRIFTED, new TreeSet<>(Set.of("title")))));
    database.writeAll(session -> drifts.keep(session, APP, who, all, NOW));
  }

  @Test
  public void aReadingIsKeptFromItsBeginningToItsEnd() {
    var begun = database.write(session -> runs.begin(session, APP, "ann", NOW));
    assertThat(going()).containsExactly(begun);

    var counts = new SyncRun.Counts(10, 2, 1, 0, 1, 3);
    database.writeAll(session -> runs.put(session, begun.at(false, counts).ended(NOW, counts, 7L)));
    var broken = database.write(session -> runs.begin(session, APP, "ann", NOW));
    var why = new Problem("down", "It is down.", "It does not answer.", "Start it.", null);
    database.writeAll(session -> runs.put(session, broken.brokenOff(NOW, why)));

    var page = database.read(session -> runs.list(session, APP, null, 10).items());
    assertThat(page).extracting(SyncRun::problem).containsExactly(why, null);
    assertThat(page.getLast().counts()).isEqualTo(counts);
    assertThat(page.getLast().changeSet()).isEqualTo(7);
    assertThat(going()).isEmpty();
  }

  @Test
  public void theMarkOfAnApplicationIsWhereTheNextReadingGoesOn() {
    var applications = new Applications();
    database.writeAll(
        session -> applications.put(session, Application.connected(APP, "ldap", Map.of()), null));
    assertThat(mark()).isNull();

    database.writeAll(session -> runs.keepMark(session, APP, "sync csn=1"));
    assertThat(mark()).isEqualTo("sync csn=1");

    // Connected otherwise, what changed since says nothing of what is read now.
    database.writeAll(
        session ->
            applications.put(
                session, Application.connected(APP, "ldap", Map.of("people", "ou=x")), null));
    assertThat(mark()).isNull();
  }

  private static Account account(long id, PersonId person, String... groups) {
    return new Account(
        id,
        APP,
        person,
        Level.ACTIVE,
        new ObservedAccount(
            "r-" + id,
            null,
            true,
            new TreeMap<>(Map.of("userName", List.of("user" + id))),
            new TreeSet<>(List.of(groups))),
        new TreeMap<>(),
        false,
        null,
        null,
        null,
        NOW);
  }

  private static Account other(long id, String application) {
    var one = account(id, null);
    return new Account(
        id,
        application,
        null,
        one.level(),
        one.observed(),
        one.grounds(),
        false,
        null,
        null,
        null,
        NOW);
  }
}
