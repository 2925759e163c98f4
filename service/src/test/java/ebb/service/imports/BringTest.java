package ebb.service.imports;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.service.InProcess;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Files as they come for the first time. */
public class BringTest {
  private static final String ROWS =
      "No,Family,Given,Kind\nB1,Brent,Ida,guest\nB2,Bunting,Per,guest\n";

  @Test
  public void aFileOfASourceThatNobodyKnowsYetBeginsIt() throws Exception {
    var file = Files.writeString(InProcess.stage().home().resolve("begin.csv"), ROWS);

    var read = InProcess.client().json("imports", "add", file.toString(), "--source=begun-by-file");
    assertThat(read.at("/questions/0/code").asString()).isEqualTo("columns-to-map");
    assertThat(read.at("/questions/0/why").asString()).contains("how begun-by-file is read");
    var mapped =
        InProcess.client()
            .json(
                "imports",
                "map",
                read.path("id").asString(),
                "--key=No",
                "--column=Family=name.familyName",
                "--column=Given=name.givenName",
                "--column=Kind=userType");

    assertThat(mapped.path("source").asString()).isEqualTo("begun-by-file");
    assertThat(mapped.at("/counts/new").asInt()).isEqualTo(2);
  }

  @Test
  public void aNameThatNoSourceCanHaveIsRefused() throws Exception {
    var file = Files.writeString(InProcess.stage().home().resolve("begin.csv"), ROWS);

    var said = InProcess.client().run("imports", "add", file.toString(), "--source=../hr");

    assertThat(said.exitCode()).isNotZero();
    assertThat(said.err()).contains("../hr");
  }

  @DataProvider
  Object[][] forms() {
    return new Object[][] {
      {"application/x-www-form-urlencoded"}, {"multipart/form-data; boundary=x"},
    };
  }

  @Test(dataProvider = "forms")
  public void aFormIsNotTakenForAnEmptyFile(String type) throws Exception {
    try (var http = HttpClient.newHttpClient()) {
      var answer =
          http.send(
              HttpRequest.newBuilder(
                      URI.create(InProcess.stage().url() + "/api/v1/imports?file=a.csv"))
                  .header("Authorization", "Bearer " + InProcess.stage().token())
                  .header("Content-Type", type)
                  .POST(BodyPublishers.ofString(ROWS))
                  .build(),
              BodyHandlers.ofString());

      assertThat(answer.statusCode()).isEqualTo(415);
      assertThat(answer.body()).contains("upload-as-form", "application/octet-stream");
    }
  }
}
