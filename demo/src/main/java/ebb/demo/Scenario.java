package ebb.demo;

import static ebb.demo.SkerrowFerries.*;

import com.unboundid.ldap.sdk.LDAPException;
import ebb.standins.Faults;
import ebb.standins.PostBox.Letter;
import java.io.IOException;
import java.io.PrintStream;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import java.util.stream.StreamSupport;
import tools.jackson.databind.JsonNode;

/** Two days and six weeks of Skerrow Ferries, through the client, checked in the applications. */
public final class Scenario {
  private static final String REPLY =
      """
      {name} has left Skerrow Ferries

      The last day of {name} was {lastDay}. Please write to {recipient}.
      """;

  private static final Pattern ASK = Pattern.compile("(http://\\S+/ask/\\S+)");
  private static final ZoneId ZONE = ZoneId.of("Europe/Oslo");

  private final Stage stage;
  private final Client client;
  private final Report report;
  private final SkerrowFerries company = new SkerrowFerries(LocalDate.now(ZONE));
  private final HttpClient http = HttpClient.newHttpClient();
  private final Path dayOne;
  private final Path dayTwo;
  private long dayTwoImport;
  private long dayTwoSet;

  private Scenario(Stage stage, Report report) {
    this.stage = stage;
    this.client = new Client(stage.url(), stage.token());
    this.report = report;
    this.dayOne = stage.home().resolve("files/hr-day-1.csv");
    this.dayTwo = stage.home().resolve("files/hr-day-2.csv");
  }

  /** Runs all of it; true if all came true. */
  public static boolean run(Stage stage, PrintStream out) throws Exception {
    var report = new Report(out);
    new Scenario(stage, report).all();
    return report.end();
  }

  /** Brings the company to the point where day one is shown and waits for its release. */
  public static void showDayOne(Stage stage, PrintStream out) throws Exception {
    var scenario = new Scenario(stage, new Report(out));
    SetUp.run(scenario.client, stage);
    scenario.company.writeDayOne(scenario.dayOne);
    out.println(
        scenario.client.done(
            "imports", "add", scenario.dayOne.toString(), "--source=hr", "--complete"));
  }

  /**
   * Tells the story to the fifth day after the second file: leavers' departures are under way, a
   * season's end lies ahead, and somebody has edited the directory behind Ebb's back.
   */
  public static void tellToTheSecondWeek(Stage stage, PrintStream out) throws Exception {
    var scenario = new Scenario(stage, new Report(out));
    scenario.bringInDayOne();
    scenario.releaseDayOne();
    scenario.byHand();
    scenario.bringInDayTwo();
    scenario.releaseDayTwo();
    scenario.client.done("clock", "--days=5");
    scenario.client.settle();
    scenario.editBehindOurBack();
    scenario.client.done("applications", "sync", "directory");
  }

  private void all() throws Exception {
    bringInDayOne();
    releaseDayOne();
    welcome();
    byHand();
    bringInDayTwo();
    releaseDayTwo();
    takeBack();
    drift();
    awayAndBack();
    later();
    truth();
  }

  private void bringInDayOne() throws IOException, LDAPException {
    report.chapter("1  Day one: the HR file is brought in");
    SetUp.run(client, stage);
    company.writeDayOne(dayOne);
    var made = client.json("imports", "add", dayOne.toString(), "--source=hr", "--complete");
    report.say("%s", client.done("imports", "show", "1").strip().replace("\n", "\n   "));
    report.same(
        company.dayOne().size(), made.at("/counts/new").asInt(), "every right row is somebody new");
    report.same(
        company.wrongRows(), made.at("/counts/refused").asInt(), "every wrong row is refused");
    var refused = client.json("imports", "rows", "1", "--verdict=refused");
    report.check(
        stream(refused.path("items"))
            .flatMap(row -> stream(row.path("problems")))
            .allMatch(
                p ->
                    p.path("where").asString("").contains("line ")
                        && !p.path("remedy").asString("").isEmpty()),
        "each refused row says where, why and what to do");
    report.same(
        0, stage.mailHouse().accounts().count(), "nothing is written in the mail house yet");
    report.same(0, stage.directory().people(), "nothing is written in the directory yet");
  }

  private void releaseDayOne() throws Exception {
    report.chapter("2  Its change set is released");
    report.say(
        "%s", client.done("changes", "release", SetUp.FIRST_SET).strip().replace("\n", "\n   "));
    var set = client.json("changes", "show", SetUp.FIRST_SET);
    report.check(
        stream(set.path("counts")).allMatch(count -> count.path("state").asString().equals("seen")),
        "every change was carried out and seen");
    report.same(
        company.dayOne().size(),
        stage.directory().people(),
        "everybody has an entry in the directory");
    report.same(
        employees(),
        stage.mailHouse().accounts().count(),
        "everybody but contractors has an account in the mail house");
    var head = stage.directory().person(login(headOf("Deck")));
    var mate = stage.directory().person(login(RENAMED));
    report.same(
        head.getDN(),
        mate.getAttributeValue("manager"),
        "managers are set in the directory, whoever came first in the file");
    report.same(
        mail(headOf("Deck")).path("id").asText(),
        mail(RENAMED)
            .at("/urn:ietf:params:scim:schemas:extension:enterprise:2.0:User/manager/value")
            .asText(),
        "and in the mail house");
    client.settle();
    report.same(
        "seen", client.json("imports", "show", "1").path("stage").asString(), "the import is seen");
  }

  private void welcome() throws Exception {
    report.chapter("3  Everybody is welcomed, and chooses a password");
    report.same(
        company.dayOne().size(),
        stage.postBox().letters().size(),
        "a notice went out for each person");
    var letter = lettersAbout(RENAMED).getFirst();
    report.same(
        company.dayOne().get(RENAMED).get("Private mail"), letter.to(), "to the private address");
    var withoutMail =
        company.dayOne().values().stream()
            .filter(row -> row.get("Private mail").isEmpty())
            .findFirst()
            .orElseThrow();
    var manager = withoutMail.get("Line manager");
    report.check(
        List.of(company.dayOne().get(manager).get("Private mail"), login(manager) + "@" + DOMAIN)
            .contains(lettersAbout(withoutMail.staffNo()).getFirst().to()),
        "or to the manager, where there is none");
    report.same(422, answer(letter, "short"), "a short password is not taken");
    report.same(200, answer(letter, "a-lantern-on-the-quay"), "a good one is");
    report.same(410, answer(letter, "another-lantern-there"), "the link works once");
    report.check(
        canSignIn(RENAMED, "a-lantern-on-the-quay"), "it opens the directory and the mail house");
  }

  private void byHand() throws Exception {
    report.chapter("4  By hand: a person, a reset, a group");
    client.done(
        "people",
        "add",
        "name.givenName=Ketil",
        "name.familyName=Handley",
        "department=Office",
        "userType=employee",
        "emails.home=ketil@post.example",
        "manager=" + id(headOf("Office")),
        "--release");
    client.settle();
    report.check(
        stage.directory().person("ketil.handley") != null, "Ketil Handley is in the directory");
    report.check(
        stage.mailHouse().accounts().byName("ketil.handley") != null, "and in the mail house");
    client.done("people", "reset", id(RENAMED));
    client.settle();
    report.check(
        !canSignIn(RENAMED, "a-lantern-on-the-quay"),
        "after a reset the old password opens nothing");
    report.same(
        200,
        answer(lettersAbout(RENAMED).getLast(), "two-lanterns-on-the-quay"),
        "the new link takes a new one");
    report.check(canSignIn(RENAMED, "two-lanterns-on-the-quay"), "which opens both again");
    client.done(
        "people",
        "grant",
        id(GETS_GROUP),
        "--application=directory",
        "--group=first-aid",
        "--reason=course passed",
        "--release");
    report.check(
        stage
            .directory()
            .members("first-aid")
            .contains(stage.directory().person(login(GETS_GROUP)).getDN()),
        "%s is in the group first-aid",
        company.dayOne().get(GETS_GROUP).name());
  }

  private void bringInDayTwo() throws Exception {
    report.chapter("5  Day two: from now on HR's files come by themselves");
    giveFiles();
    var folder = Files.createDirectories(stage.home().resolve("from-hr"));
    client.done(
        "feeds",
        "put",
        "hr",
        "--kind=folder",
        "--set=path=" + folder,
        "--set=names=*.csv",
        "--at=0 30 5 * * *",
        "--complete");
    client.done("feeds", "on", "hr");
    company.writeDayTwo(dayTwo);
    var reply = Files.writeString(stage.home().resolve("reply.txt"), REPLY);
    client.done("departures", "procedures", "others", "--reply=" + reply, "--reply-days=60");
    // As careful senders do: written under another name, and renamed once it is whole.
    var part = Files.copy(dayTwo, folder.resolve("people.csv.part"));
    Files.move(part, folder.resolve("people.csv"), StandardCopyOption.ATOMIC_MOVE);
    var run = awaitDelivery();
    dayTwoImport = run.path("made").asLong();
    dayTwoSet = run.path("changeSet").asLong();
    var number = Long.toString(dayTwoImport);
    report.say("%s", client.done("feeds", "runs", "hr").strip().replace("\n", "\n   "));
    report.same("done", run.path("outcome").asString(), "the delivery is taken, and let through");
    report.same(4, run.at("/counts/new").asInt(), "four joiners");
    report.same(
        5, run.at("/counts/changed").asInt(), "five changed: a rename, two moves, two last days");
    report.same(
        1, run.at("/counts/set aside").asInt(), "one row that resembles somebody is set aside");
    report.same(2, run.at("/counts/missing").asInt(), "two people are missing");
    client.settle();
    report.check(
        isSuspended(LEAVES_BY_DATE), "who leaves by last day is suspended without anybody's act");
    report.check(
        answered(LEAVES_BY_DATE)
            .contains(departureOf(LEAVES_BY_DATE).path("recipientName").asString()),
        "whoever writes to them is answered, and told to whom to turn");
    report.check(
        !isSuspended(LEAVES_BY_MISSING_ROW), "who is only missing is not: somebody has to say");
    report.check(isActiveInMail(MOVES_TO_CONTRACT), "and what would close an account waits");
    client.done("imports", "decide", number, LEAVES_BY_MISSING_ROW, "leaver");
    client.done("imports", "decide", number, STILL_HERE, "still-here");
    report.say("%s", client.done("imports", "show", number).strip().replace("\n", "\n   "));
    report.check(
        kinds(dayTwoSet).stream().noneMatch("delete"::equals) && kinds(dayTwoSet).contains("close"),
        "leavers are suspended, one account is to be closed, nothing is deleted");
  }

  /** What the mail house answers whoever writes to somebody; empty for nothing. */
  private String answered(String number) throws InterruptedException {
    for (int i = 0; i < 100; i++) {
      var answer = stage.mailHouse().use().answerOf(mail(number).path("id").asText());
      if (answer != null) {
        return answer.path("text").asText();
      }
      Thread.sleep(100);
    }
    return "";
  }

  private JsonNode awaitDelivery() throws InterruptedException {
    for (int i = 0; i < 300; i++) {
      var runs = client.json("feeds", "runs", "hr").path("items");
      if (!runs.isEmpty() && !runs.get(0).path("outcome").asString().equals("running")) {
        return runs.get(0);
      }
      Thread.sleep(200);
    }
    throw new IllegalStateException("The delivery was not taken: " + client.done("feeds", "list"));
  }

  /** Work goes on between the files: accounts come to own things. */
  private void giveFiles() {
    var items = stage.mailHouse().items();
    for (var number :
        List.of(LEAVES_BY_DATE, LEAVES_BY_MISSING_ROW, MOVES_TO_CONTRACT, SEASON_ENDS)) {
      var account = mail(number).path("id").asText();
      for (int i = 1; i <= 7; i++) {
        items.add(
            account,
            "files",
            "notes-%s-%d.txt".formatted(number, i),
            "Note %d of %s".formatted(i, number),
            true);
      }
    }
  }

  private void releaseDayTwo() throws Exception {
    report.chapter("6  What waits of it is released");
    report.say(
        "%s",
        client.done("changes", "release", Long.toString(dayTwoSet)).strip().replace("\n", "\n   "));
    client.settle();
    dayTwoIsTrue();
    var closing = departureOf(MOVES_TO_CONTRACT);
    report.check(
        closing.path("kind").asString().equals("closing"),
        "the mover's account in the mail house is being closed");
    report.check(
        closing.at("/accounts/0/next").asString().contains("Name somebody"),
        "it waits at a gate: %s",
        closing.at("/accounts/0/next").asString());
    report.same(
        7,
        stage.mailHouse().items().names(mail(MOVES_TO_CONTRACT).path("id").asText()).size(),
        "with all its files");
  }

  private void dayTwoIsTrue() throws Exception {
    report.check(isSuspended(LEAVES_BY_DATE), "the leaver by last day is suspended everywhere");
    report.check(isSuspended(LEAVES_BY_MISSING_ROW), "so is the one who was missing and confirmed");
    report.check(!isSuspended(STILL_HERE), "the one who is still here is not");
    report.same("anna.brightwater", login(RENAMED), "the rename gave a new login");
    var renamed = mail(RENAMED);
    report.check(
        renamed != null && renamed.toString().contains("anna.lindtarn@skerrow.example"),
        "and the old address stays as an alias");
    report.check(
        !isActiveInMail(MOVES_TO_CONTRACT), "who moved to the dry dock cannot use the mail house");
    report.check(
        isPrepared(STARTS_NEXT_WEEK),
        "who starts next week has an account that cannot be used yet");
  }

  private void takeBack() throws Exception {
    report.chapter("7  Day two is taken back, and let through again");
    client.done("changes", "take-back", Long.toString(dayTwoSet), "--release");
    client.settle();
    report.check(
        !isSuspended(LEAVES_BY_DATE) && !isSuspended(LEAVES_BY_MISSING_ROW),
        "the leavers are back");
    report.same("anna.lindtarn", login(RENAMED), "so is the old name");
    report.check(isActiveInMail(MOVES_TO_CONTRACT), "and the mover's account");
    var sync = client.json("applications", "sync", "mail-house");
    report.check(sync.path("changeSet").isNull(), "a new evaluation finds nothing to do");
    var back =
        client.json("changes", "show", Long.toString(dayTwoSet)).path("takenBackBy").asLong();
    client.done("changes", "take-back", Long.toString(back), "--release");
    client.settle();
    dayTwoIsTrue();
  }

  private void drift() throws Exception {
    report.chapter("8  Somebody edited the directory behind Ebb's back");
    var edited = editBehindOurBack();
    var found = client.json("applications", "sync", "directory");
    report.say(
        "%s",
        client
            .done("changes", "show", found.path("changeSet").asString(), "--all")
            .strip()
            .replace("\n", "\n   "));
    report.same(
        1, found.path("drifted").asInt(), "one account has drifted; case and spaces are no drift");
    report.same(1, found.path("unmatched").asInt(), "one account is nobody's");
    client.done("changes", "release", found.path("changeSet").asString());
    report.same(
        "Mate",
        stage.directory().person(edited).getAttributeValue("title"),
        "the drift is put right after a release");
    var writes = stage.directory().writes();
    var again = client.json("applications", "sync", "directory");
    report.check(
        again.path("changeSet").isNull() && stage.directory().writes() == writes,
        "a second sync finds nothing and writes nothing");
  }

  /** Whose entry is no longer what it should be. */
  private String editBehindOurBack() throws Exception {
    var edited = login(GETS_GROUP);
    stage.directory().edit(edited, "title", "Admiral");
    stage.directory().edit(login(headOf("Deck")), "title", "HEAD  of deck");
    stage.directory().add("ghost.writer", "Ghost", "Writer");
    return edited;
  }

  private void awayAndBack() throws Exception {
    report.chapter("9  Away for a while, and back");
    var name = company.dayOne().get(GETS_GROUP).name();
    client.done("suspensions", "start", id(GETS_GROUP), "--reason=leave", "--release");
    client.settle();
    report.check(isSuspended(GETS_GROUP), "%s is on leave, and off everywhere", name);
    report.say(
        "%s",
        client
            .done("suspensions", "end", id(GETS_GROUP), "--release")
            .strip()
            .replace("\n", "\n   "));
    client.settle();
    var entry = stage.directory().person(login(GETS_GROUP));
    report.check(
        isActiveInMail(GETS_GROUP) && !isSuspended(GETS_GROUP), "back, both are open again");
    report.check(
        stage.directory().members("first-aid").contains(entry.getDN()),
        "with all that was theirs: first-aid, too");
  }

  private void later() throws Exception {
    report.chapter("10  The weeks after");
    client.done("people", "hold", id(LEAVES_BY_MISSING_ROW), "--reason=accounts under audit");
    client.done(
        "departures",
        "recipient",
        departureOf(MOVES_TO_CONTRACT).path("id").asString(),
        id(headOf("Office")));
    client.done("clock", "--days=7");
    client.settle();
    report.check(
        isActiveInMail(STARTS_NEXT_WEEK), "a week later the joiner's access opens by itself");
    var leaver = departureOf(LEAVES_BY_DATE);
    report.same(
        "proven",
        stream(leaver.path("accounts"))
            .filter(account -> account.path("application").asString().equals("mail-house"))
            .map(account -> account.path("handover").asString())
            .findFirst()
            .orElseThrow(),
        "the leaver's files were handed over to %s, and that is proven",
        leaver.path("recipientName").asString());
    report.check(
        stage
            .mailHouse()
            .items()
            .names(mail(headOf("Office")).path("id").asText())
            .containsAll(fileNames(LEAVES_BY_DATE)),
        "they are there, all seven");
    client.done("clock", "--days=4");
    client.settle();
    report.check(
        isSuspended(SEASON_ENDS),
        "with the season %s is suspended by itself",
        company.dayOne().get(SEASON_ENDS).name());
    stage.mailHouse().faults().order(Faults.Kind.LOSE_ONE_ITEM, "transfers", 1);
    client.done("clock", "--days=3");
    client.settle();
    var season = departureOf(SEASON_ENDS);
    var number = season.path("id").asString();
    var shown = client.done("departures", "show", number);
    report.check(
        shown.contains("still belong to the departing account")
            && shown.contains("retry the handover"),
        "one handover fails, and the answer says which gate is shut, why, and what to do");
    report.say("%s", shown.strip().replace("\n", "\n   "));
    client.done("departures", "retry", number);
    client.settle();
    report.check(
        stage
            .mailHouse()
            .items()
            .names(mail(headOf("Deck")).path("id").asText())
            .containsAll(fileNames(SEASON_ENDS)),
        "retried, all of it arrives");
    client.done("clock", "--days=31");
    client.settle();
    report.check(
        isGone("tobias.wrenfield"), "after the waiting time the leaver's accounts are deleted");
    report.check(isGone("amadou.pelletier"), "and those of the season's crew");
    report.check(isSuspended(LEAVES_BY_MISSING_ROW), "the one under a hold stays suspended");
    report.check(
        client
            .done("departures", "show", departureOf(LEAVES_BY_MISSING_ROW).path("id").asString())
            .contains("accounts under audit"),
        "and the departure says why");
    report.check(
        mail(MOVES_TO_CONTRACT) == null, "the mover's account in the mail house is closed");
    report.check(
        stage
            .mailHouse()
            .items()
            .names(mail(headOf("Office")).path("id").asText())
            .containsAll(fileNames(MOVES_TO_CONTRACT)),
        "and its files are with whom was named");
  }

  private void truth() throws Exception {
    report.chapter("11  What is true in the end");
    // Ketil and four joiners came, two have gone, and one has moved; the ghost is still there.
    report.same(
        company.dayOne().size() + 1 + 4 - 2 + 1,
        stage.directory().people(),
        "entries in the directory");
    report.same(
        employees() + 1 + 4 - 2 - 1,
        stage.mailHouse().accounts().count(),
        "accounts in the mail house");
    var journal = client.run("journal", "verify");
    report.check(journal.exitCode() == 0, "%s", journal.out().strip());
    var deeds = client.done("journal", "list", "--limit=20000", "-o", "csv");
    report.check(
        deeds.contains("mail-house: delete seen")
            && deeds.contains("released change set " + dayTwoSet),
        "the journal tells of the releases and the deletions");
    var now = client.json("now");
    report.same(0, now.path("changesRefused").asInt(), "no change was refused");
    report.same(0, now.path("noticesUndeliverable").asInt(), "every notice reached somebody");
  }

  // What the applications say ------------------------------------------------------------------

  private long employees() {
    return company.dayOne().values().stream()
        .filter(row -> row.get("Contract").equals("employee"))
        .count();
  }

  private com.fasterxml.jackson.databind.JsonNode mail(String number) {
    return stage.mailHouse().accounts().byName(login(number));
  }

  private boolean isActiveInMail(String number) {
    return mail(number) != null && mail(number).path("active").asBoolean();
  }

  private boolean isSuspended(String number) throws LDAPException {
    var entry = stage.directory().person(login(number));
    return !isActiveInMail(number) && "FALSE".equals(entry.getAttributeValue("loginAllowed"));
  }

  private boolean isPrepared(String number) throws LDAPException {
    return mail(number) != null
        && isSuspended(number)
        && levels(number).stream().allMatch("prepared"::equals);
  }

  private boolean isGone(String login) throws LDAPException {
    return stage.directory().person(login) == null
        && stage.mailHouse().accounts().byName(login) == null;
  }

  private boolean canSignIn(String number, String password) throws Exception {
    var body = "{\"userName\":\"%s\",\"password\":\"%s\"}".formatted(login(number), password);
    var request =
        HttpRequest.newBuilder(URI.create(stage.mailHouse().address() + "/sign-in"))
            .POST(BodyPublishers.ofString(body))
            .build();
    var inMail = http.send(request, BodyHandlers.ofString()).statusCode() == 200;
    return inMail && stage.directory().canSignIn(login(number), password);
  }

  private static List<String> fileNames(String number) {
    return IntStream.rangeClosed(1, 7)
        .mapToObj(i -> "notes-%s-%d.txt".formatted(number, i))
        .toList();
  }

  // What Ebb says ------------------------------------------------------------------------------

  private JsonNode person(String number) {
    return client
        .json("people", "list", "--filter", "employeeNumber eq \"%s\"".formatted(number))
        .at("/items/0");
  }

  private String id(String number) {
    return person(number).path("id").asString();
  }

  private String login(String number) {
    return person(number).path("login").asString("");
  }

  private List<String> levels(String number) {
    return stream(client.json("people", "show", id(number)).path("accounts"))
        .map(a -> a.path("level").asString())
        .toList();
  }

  private JsonNode departureOf(String number) {
    var person = Long.parseLong(id(number));
    return stream(client.json("departures", "list", "--state=running").path("items"))
        .filter(departure -> departure.path("person").asLong() == person)
        .findFirst()
        .orElseThrow();
  }

  private List<String> kinds(long set) {
    return stream(client.json("changes", "show", Long.toString(set)).path("counts"))
        .filter(count -> !count.path("state").asString().equals("withdrawn"))
        .map(count -> count.path("kind").asString())
        .toList();
  }

  private List<Letter> lettersAbout(String number) {
    var name = "is: " + login(number);
    return stage.postBox().letters().stream()
        .filter(letter -> letter.text().lines().anyMatch(line -> line.endsWith(name)))
        .toList();
  }

  private int answer(Letter letter, String password) throws Exception {
    var link = ASK.matcher(letter.text());
    if (!link.find()) {
      throw new IllegalStateException("No link in: " + letter.text());
    }
    var form =
        "password=%1$s&again=%1$s".formatted(URLEncoder.encode(password, StandardCharsets.UTF_8));
    var request =
        HttpRequest.newBuilder(URI.create(link.group(1)))
            .header("Content-Type", "application/x-www-form-urlencoded")
            .POST(BodyPublishers.ofString(form))
            .build();
    return http.send(request, BodyHandlers.ofString()).statusCode();
  }

  private static Stream<JsonNode> stream(JsonNode array) {
    return StreamSupport.stream(array.spliterator(), false);
  }
}
