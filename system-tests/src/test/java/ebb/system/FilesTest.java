package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Files as people have them, from their first look to the report; each test has its own source. */
public class FilesTest {
  private Stage stage;
  private Rest rest;
  private Client client;

  @BeforeClass
  void start() throws Exception {
    stage = Services.start();
    rest = new Rest(stage.url(), stage.token());
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
  }

  @Test
  public void aFileNobodyMappedIsAskedAboutOnceAndNeverAgain() throws Exception {
    var file =
        "Personal-Nr;Nachname;Vorname;Eintritt\r\nA1;Måås;Ida;1.2.2026\r\nA2;Vik;Per;28.2.2026\r\n";
    var asked = rest.bring("file=crew.csv", file);
    assertThat(asked.status()).isEqualTo(201);
    assertThat(codes(asked.body().path("questions"))).containsExactly("columns-to-map");
    var mapping = rest.get(path(asked) + "/mapping").body();
    assertThat(mapping.path("key").asString()).isEqualTo("Personal-Nr");
    assertThat(mapping.path("dateFormat").asString()).isEqualTo("d.M.uuuu");
    assertThat(mapping.path("separator").asString()).isEqualTo(";");

    var read = settle(asked, "{\"source\": \"crew\"}");

    assertThat(read.path("stage").asString()).isEqualTo("shown");
    assertThat(read.path("counts").path("new").asLong()).isEqualTo(2);
    var again = rest.bring("file=crew-2.csv", file.replace("28.2.2026", "1.3.2026"));
    assertThat(again.body().path("questions")).isEmpty();
    assertThat(again.body().path("source").asString()).isEqualTo("crew");
    assertThat(again.body().path("counts").path("new").asLong()).isEqualTo(2);
  }

  @Test
  public void aSourceWhoseColumnsChangedIsAskedAboutAndAnotherFileIsRefused() throws Exception {
    var first = rest.bring("file=a.csv", "No,Given name,Family name,Unit\nB1,Ida,Holm,Deck\n");
    settle(first, "{\"source\": \"changing\"}");

    var changed =
        rest.bring(
            "file=b.csv&source=changing", "No,Given name,Family name,Berth\nB1,Ida,Holm,4\n");
    assertThat(codes(changed.body().path("questions"))).containsExactly("columns-changed");
    var other = rest.bring("file=c.csv&source=changing", "Harbour,Berth\nElvnes,4\n");

    assertThat(other.status()).isEqualTo(400);
    assertThat(codes(other.body().path("problems"))).contains("heading-missing", "column-unknown");
  }

  @Test
  public void whereTwoSourcesHaveTheSameColumnsOneIsAskedFor() throws Exception {
    var file = "No,Given name,Family name,Ward\nP1,Ida,Holm,Deck\n";
    settle(rest.bring("file=p.csv", file), "{\"source\": \"north-ward\"}");
    settle(rest.bring("file=p.csv&source=north-ward", file), "{\"source\": \"south-ward\"}");

    var unclear = rest.bring("file=p.csv", file);

    assertThat(codes(unclear.body().path("questions"))).containsExactly("source-unclear");
    settle(unclear, "{\"source\": \"south-ward\"}");
    assertThat(rest.get(path(unclear)).body().path("source").asString()).isEqualTo("south-ward");
    assertThat(rest.get("/api/v1/sources/south-ward/mappings").body().path("items")).hasSize(1);
  }

  @Test
  public void datesThatCanBeReadTwoWaysAreAskedAboutNeverGuessed() throws Exception {
    var asked =
        rest.bring(
            "file=dates.csv",
            "No,Given name,Family name,First day\nC1,Ida,Holm,03/04/2026\nC2,Per,Vik,05/06/2026\n");

    var refused =
        rest.json("PUT", path(asked) + "/mapping", "{\"source\": \"dates\"}", "Prefer", "wait=60");
    assertThat(refused.code()).isEqualTo("date-order-unclear");

    settle(asked, "{\"source\": \"dates\", \"dateFormat\": \"M/d/uuuu\"}");
    assertThat(row(asked, 2).path("values").path("startDate").asString()).isEqualTo("2026-03-04");
  }

  @Test
  public void mendingOneRowMendsAllAlikeAndFreesThoseWhoWaitedForThem() throws Exception {
    var asked =
        rest.bring(
            "file=mend.csv",
            """
            No,Given name,Family name,Private mail,Manager
            D1,Ida,Holm,none,
            D2,Per,Vik,none,D1
            D3,Zoë,Lund,zoe@post.example,D9
            D9,Åse,Berg,ase@post.example,
            """);
    settle(
        asked,
        """
        {"source": "mend", "columns": {"Given name": "name.givenName", "Family name": "name.familyName",
         "Private mail": "emails.home", "Manager": "manager"}}""");
    assertThat(counts(asked, "refused")).isEqualTo(2);
    var kinds = rest.get(path(asked) + "/problems").body().path("items");
    assertThat(kinds).hasSize(1);
    assertThat(kinds.get(0).path("rows").asLong()).isEqualTo(2);

    var mended =
        rest.json(
            "PUT",
            path(asked) + "/rows/2/mend",
            "{\"texts\": {\"Private mail\": \"\"}, \"alike\": true}");

    assertThat(mended.body().path("rows").asLong()).isEqualTo(2);
    assertThat(mended.body().path("refused").asLong()).isZero();
    assertThat(counts(asked, "refused")).isZero();
    assertThat(counts(asked, "new")).isEqualTo(4);
    assertThat(set(asked).path("people").asLong()).isEqualTo(4);
  }

  @Test
  public void aReportWaitsForItsManagerAndGoesOnWhenThatOneIsMended() throws Exception {
    var asked =
        rest.bring(
            "file=waits.csv", "No,Given name,Family name,Manager\nW1,Ida,Holm,W2\n,Per,Vik,\n");
    settle(asked, "{\"source\": \"waits\", \"key\": \"No\"}");
    assertThat(codes(row(asked, 2).path("problems"))).containsExactly("manager-unknown");

    rest.json(
        "PUT", path(asked) + "/rows/3/mend", "{\"texts\": {\"No\": \"W2\"}, \"alike\": false}");

    assertThat(counts(asked, "refused")).isZero();
    assertThat(row(asked, 2).path("verdict").asString()).isEqualTo("new");
    assertThat(row(asked, 2).path("values").path("manager").asString())
        .isEqualTo(row(asked, 3).path("person").asString());
  }

  @Test
  public void managersWhoLeadRoundAreRefusedAndTheOthersGoOn() throws Exception {
    var asked =
        rest.bring(
            "file=round.csv",
            "No,Given name,Family name,Manager\nR1,Ida,Holm,R2\nR2,Per,Vik,R1\nR3,Zoë,Lund,R1\n");
    settle(asked, "{\"source\": \"round\"}");

    assertThat(codes(row(asked, 2).path("problems"))).containsExactly("managers-in-a-loop");
    assertThat(codes(row(asked, 3).path("problems"))).containsExactly("managers-in-a-loop");
    assertThat(row(asked, 4).path("verdict").asString()).isEqualTo("new");
    assertThat(set(asked).path("people").asLong()).isEqualTo(1);
  }

  @Test
  public void aCodeIsAskedAboutOnceAndRemembered() throws Exception {
    var file =
        "No,Given name,Family name,Job code\nE1,Ida,Holm,MT\nE2,Per,Vik,CH\nE3,Zoë,Lund,MT\n";
    var asked = rest.bring("file=codes.csv", file);
    settle(
        asked,
        """
        {"source": "codes", "columns": {"No": "employeeNumber", "Given name": "name.givenName",
         "Family name": "name.familyName", "Job code": "title"}, "tables": {"title": {"CH": "Chef"}}}""");
    assertThat(counts(asked, "refused")).isEqualTo(2);
    assertThat(codes(row(asked, 2).path("problems"))).containsExactly("code-unknown");

    var said =
        rest.json(
            "PUT",
            path(asked) + "/codes",
            "{\"attribute\": \"title\", \"code\": \"MT\", \"meaning\": \"Mate\"}");

    assertThat(said.body().path("rows").asLong()).isEqualTo(2);
    assertThat(row(asked, 4).path("values").path("title").asString()).isEqualTo("Mate");
    var again = rest.bring("file=codes-2.csv&source=codes", file);
    assertThat(again.body().path("counts").path("refused").asLong(0)).isZero();
    var kept = rest.get("/api/v1/sources/codes/mappings").body().path("items");
    assertThat(kept).as("a version before the code was known, and one after").hasSize(2);
  }

  @Test
  public void aFileMayOnlyDoWhatItsModeSays() throws Exception {
    var file = "No,Given name,Family name,Unit\nF1,Ida,Ottar,Deck\nF2,Per,Ottar,Deck\n";
    var first = rest.bring("file=f.csv", file);
    settle(first, "{\"source\": \"modes\"}");
    release(first);

    var addOnly =
        rest.bring(
            "file=f2.csv&source=modes&mode=add-only",
            file.replace("F1,Ida,Ottar,Deck", "F1,Ida,Ottar,Engine") + "F3,Åse,Ottar,Deck\n");
    assertThat(addOnly.body().path("counts").path("left alone").asLong()).isEqualTo(1);
    assertThat(addOnly.body().path("counts").path("new").asLong()).isEqualTo(1);
    var left = row(addOnly, 2);
    assertThat(left.path("edits").get(0).path("before").asString()).isEqualTo("Deck");
    assertThat(left.path("edits").get(0).path("after").asString()).isEqualTo("Engine");

    var updateOnly =
        rest.bring(
            "file=f3.csv&source=modes&mode=update-only",
            "No,Given name,Family name,Unit\nF9,Ida,Ottar,Engine\n");
    assertThat(updateOnly.body().path("counts").path("set aside").asLong()).isEqualTo(1);
    assertThat(row(updateOnly, 2).path("resembles")).as("its near match").hasSize(1);
  }

  @Test
  public void whatIsSaidForEveryoneFillsWhatARowDoesNotSay() throws Exception {
    var asked =
        rest.bring(
            "file=season.csv",
            "No,Given name,Family name,Last day\nG1,Ida,Holm,\nG2,Per,Vik,2027-08-01\n");
    settle(
        asked,
        """
        {"source": "season", "everyone": {"startDate": "2027-05-01", "endDate": "2027-09-30", "userType": "guest"}}""");

    var values = row(asked, 2).path("values");
    assertThat(values.path("startDate").asString()).isEqualTo("2027-05-01");
    assertThat(values.path("endDate").asString()).isEqualTo("2027-09-30");
    assertThat(values.path("userType").asString()).isEqualTo("guest");
    assertThat(row(asked, 3).path("values").path("endDate").asString()).isEqualTo("2027-08-01");
  }

  @Test
  public void aFewAreReleasedFirstAndTheRestStaysAProposal() throws Exception {
    var rows = new StringBuilder("No,Given name,Family name,Private mail,Kind,First day\n");
    for (int i = 1; i <= 6; i++) {
      rows.append("H%d,Ida%d,Trial,ida%d@post.example,employee,2026-01-01\n".formatted(i, i, i));
    }
    var asked = rest.bring("file=trial.csv", rows.toString());
    settle(asked, "{\"source\": \"trial\"}");
    assertThat(set(asked).path("peopleLeft").asLong()).isEqualTo(6);

    release(asked, "{\"first\": 2}");

    var partly = set(asked);
    assertThat(partly.path("state").asString()).isEqualTo("shown");
    assertThat(partly.path("peopleLeft").asLong()).isEqualTo(4);
    assertThat(trialPeople()).hasSize(2);
    client.done("changes", "follow", partly.path("id").asString());
    release(asked, "{\"people\": [%d]}".formatted(row(asked, 7).path("person").asLong()));
    assertThat(trialPeople()).hasSize(3).anySatisfy(name -> assertThat(name).contains("Ida6"));
    client.done("changes", "release", partly.path("id").asString());
    assertThat(set(asked).path("state").asString()).isEqualTo("released");
    assertThat(trialPeople()).hasSize(6);
    assertThat(rest.get(path(asked)).body().path("stage").asString()).isEqualTo("seen");
    assertThat(rest.get(path(asked) + "/mapping").code())
        .as("its file is kept no longer")
        .isEqualTo("file-gone");
  }

  @Test
  public void whoeverThePeopleOfAPartReportToGoesWithThem() throws Exception {
    var asked =
        rest.bring(
            "file=line.csv",
            """
            No,Given name,Family name,Kind,Private mail,First day,Manager
            M1,Ida,Line,employee,line1@post.example,2026-01-01,M3
            M2,Per,Line,employee,line2@post.example,2026-01-01,M3
            M3,Zoë,Line,employee,line3@post.example,2026-01-01,M4
            M4,Åse,Line,employee,line4@post.example,2026-01-01,
            """);
    settle(asked, "{\"source\": \"line\"}");

    release(asked, "{\"first\": 1}");
    client.done("changes", "follow", set(asked).path("id").asString());

    assertThat(set(asked).path("peopleLeft").asLong()).as("all but Ida, Zoë and Åse").isEqualTo(1);
    var states = new ArrayList<String>();
    set(asked).path("counts").forEach(count -> states.add(count.path("state").asString()));
    assertThat(states).containsOnly("seen", "proposed");
  }

  private List<String> trialPeople() throws Exception {
    var names = new ArrayList<String>();
    rest.get("/api/v1/people?filter=" + encoded("name.familyName eq \"Trial\""))
        .body()
        .path("items")
        .forEach(person -> names.add(person.path("displayName").asString()));
    return names;
  }

  @Test
  public void refusedRowsGoOutWithTheirReasonsAndComeBackMended() throws Exception {
    var asked =
        rest.bring(
            "file=out.csv",
            "No,Given name,Family name,First day\nI1,Ida,=Holm,31.2.2026\nI2,Per,Vik,1.3.2026\n");
    settle(asked, "{\"source\": \"out\", \"dateFormat\": \"d.M.uuuu\"}");

    var out = rest.get(path(asked) + "/refused").response().body();

    assertThat(out).contains("'=Holm").contains("First day is no date: 31.2.2026");
    var back =
        rest.bring(
            "file=back.csv&source=out",
            out.replace("I1,Ida,'=Holm,31.2.2026", "I1,Ida,'=Holm,28.2.2026"));
    assertThat(back.body().path("questions")).isEmpty();
    assertThat(back.body().path("source").asString()).isEqualTo("out");
    assertThat(row(back, 2).path("values").path("name.familyName").asString()).isEqualTo("=Holm");
    var report = rest.get(path(asked) + "/report").response().body().lines().toList();
    assertThat(report).hasSize(3);
    assertThat(report.get(1)).contains("refused").contains("no date");
    assertThat(report.get(2)).contains("new");
  }

  @Test
  public void aTemplateOfEveryAttributeComesBackWithoutAQuestionLeft() throws Exception {
    rest.json(
        "PUT",
        "/api/v1/attributes/campus",
        "{\"type\": \"choice\", \"choices\": [\"North\", \"South\"], \"searchable\": true, \"byHand\": \"allowed\", \"required\": false}");
    var template = rest.get("/api/v1/imports/template?format=csv").response().body();
    var headings = template.lines().findFirst().orElseThrow();
    assertThat(headings).contains("Given name,Family name *").contains("campus");
    var row = new ArrayList<String>();
    for (var heading : headings.split(",")) {
      row.add(
          switch (heading) {
            case "Employee number *" -> "J1";
            case "Given name *" -> "Ida";
            case "Family name *" -> "Template";
            case "campus" -> "south";
            default -> "";
          });
    }
    var asked = rest.bring("file=filled.csv", template + String.join(",", row) + "\n");
    settle(asked, "{\"source\": \"filled\"}");

    assertThat(codes(row(asked, 2).path("problems"))).contains("example-row");
    assertThat(row(asked, 3).path("values").path("campus").asString()).isEqualTo("South");
    release(asked);
    assertThat(
            rest.get("/api/v1/people?filter=" + encoded("campus eq \"SOUTH\""))
                .body()
                .path("items"))
        .hasSize(1);
    assertThat(
            rest.get("/api/v1/people?filter=" + encoded("campus pr and campus ne \"South\""))
                .body()
                .path("items"))
        .isEmpty();
  }

  @Test
  public void anOwnAttributeKeepsItsTypeAndItsChoices() throws Exception {
    var path = "/api/v1/attributes/berth";
    var made =
        rest.json(
            "PUT",
            path,
            "{\"type\": \"choice\", \"choices\": [\"A\", \"B\"], \"byHand\": \"forbidden\"}");
    assertThat(made.status()).isEqualTo(200);

    assertThat(codes(rest.json("PUT", path, "{\"type\": \"text\"}").body().path("problems")))
        .contains("attribute-type-stays");
    assertThat(
            codes(
                rest.json("PUT", path, "{\"type\": \"choice\", \"choices\": [\"A\"]}")
                    .body()
                    .path("problems")))
        .contains("choice-stays");
    assertThat(
            codes(
                rest.json("PUT", "/api/v1/attributes/title", "{\"type\": \"number\"}")
                    .body()
                    .path("problems")))
        .contains("attribute-is-standard");
    assertThat(
            rest.json(
                    "POST",
                    "/api/v1/people",
                    "{\"attributes\": {\"name.givenName\": \"Ida\", \"name.familyName\": \"B\", \"berth\": \"A\"}}")
                .code())
        .isEqualTo("attribute-not-by-hand");
  }

  @Test
  public void aKeyThatLostItsZerosIsNoSecondPerson() throws Exception {
    var asked =
        rest.bring(
            "file=zeros.csv", "No,Given name,Family name\n00712,Ida,Nought\n00713,Per,Nought\n");
    settle(asked, "{\"source\": \"zeros\"}");
    release(asked);

    var again =
        rest.bring(
            "file=zeros-2.csv&source=zeros",
            "No,Given name,Family name\n712,Ida,Nought\n00713,Per,Nought\n");

    assertThat(codes(row(again, 2).path("problems"))).containsExactly("key-zeros-lost");
    assertThat(again.body().path("counts").path("unchanged").asLong()).isEqualTo(1);
  }

  @Test
  public void aMappingEditedMakesEveryRowCountAgainAndOnlyOnce() throws Exception {
    var file = "No,Given name,Family name,Unit\nK1,Ida,Again,Deck\nK2,Per,Again,Deck\n";
    var asked = rest.bring("file=k.csv", file);
    settle(
        asked,
        "{\"source\": \"again\", \"columns\": {\"Given name\": \"name.givenName\", \"Family name\": \"name.familyName\"}}");
    release(asked);
    assertThat(
            rest.bring("file=k2.csv&source=again", file)
                .body()
                .path("counts")
                .path("unchanged")
                .asLong())
        .isEqualTo(2);

    var edited = rest.bring("file=k3.csv&source=again", file);
    settle(
        edited,
        "{\"source\": \"again\", \"columns\": {\"Given name\": \"name.givenName\", \"Family name\": \"name.familyName\", \"Unit\": \"department\"}}");

    assertThat(counts(edited, "changed")).isEqualTo(2);
    assertThat(row(edited, 2).path("edits").get(0).path("attribute").asString())
        .isEqualTo("department");
  }

  @Test
  public void aFileIsAnsweredAtOnceAndReadInTheBackground() throws Exception {
    var known = rest.bring("file=l.csv", "No,Given name,Family name\nL1,Ida,Later\n");
    settle(known, "{\"source\": \"later\"}");

    var answer =
        rest.send(
            "POST",
            "/api/v1/imports?file=l2.csv&source=later",
            "application/octet-stream",
            "No,Given name,Family name\nL1,Ida,Later\nL2,Per,Later\n");

    assertThat(answer.status()).isIn(201, 202);
    var path = answer.header("Location");
    var stage = "";
    for (int i = 0; i < 200 && !stage.equals("shown"); i++) {
      Thread.sleep(50);
      stage = rest.get(path).body().path("stage").asString();
    }
    assertThat(stage).isEqualTo("shown");
  }

  private JsonNode settle(Rest.Answer asked, String edit) throws Exception {
    var settled = rest.json("PUT", path(asked) + "/mapping", edit, "Prefer", "wait=60");
    assertThat(settled.status()).as(settled.body().toString()).isEqualTo(201);
    return settled.body();
  }

  private void release(Rest.Answer made) throws Exception {
    release(made, "{}");
    client.done("changes", "follow", set(made).path("id").asString());
  }

  private void release(Rest.Answer made, String request) throws Exception {
    var released =
        rest.json(
            "POST", "/api/v1/change-sets/" + set(made).path("id").asLong() + "/release", request);
    assertThat(released.status()).as(released.body().toString()).isEqualTo(202);
  }

  private JsonNode set(Rest.Answer made) throws Exception {
    var now = rest.get(path(made)).body();
    return rest.get("/api/v1/change-sets/" + now.path("changeSet").asLong()).body();
  }

  private JsonNode row(Rest.Answer made, long line) throws Exception {
    for (var row : rest.get(path(made) + "/rows").body().path("items")) {
      if (row.path("line").asLong() == line) {
        return row;
      }
    }
    throw new AssertionError("No row in line " + line);
  }

  private long counts(Rest.Answer made, String verdict) throws Exception {
    return rest.get(path(made)).body().path("counts").path(verdict).asLong(0);
  }

  private static String path(Rest.Answer made) {
    return "/api/v1/imports/" + made.body().path("id").asLong();
  }

  private static List<String> codes(JsonNode problems) {
    return problems.valueStream().map(problem -> problem.path("code").asString()).toList();
  }

  private static String encoded(String filter) {
    return URLEncoder.encode(filter, StandardCharsets.UTF_8);
  }
}
