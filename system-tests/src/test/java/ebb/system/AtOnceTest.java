package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.Executors;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** Two operators who act on one change set at the same moment. */
public class AtOnceTest extends WithService {
  private static final int ROUNDS = 6;
  private static final int PEOPLE = 8;

  private Rest ada;
  private Rest bo;
  private int round;

  @BeforeClass(dependsOnMethods = "startService")
  void operators() throws Exception {
    ada = new Rest(stage.url(), stage.token());
    ada.json("PUT", "/api/v1/operators/bo", "{\"role\": \"administrator\"}");
    bo =
        ada.as(
            ada.json("POST", "/api/v1/tokens", "{\"label\": \"his\", \"operator\": \"bo\"}")
                .body()
                .path("token")
                .asString());
  }

  private String shown() throws Exception {
    var file = Newcomers.file(stage.home(), ++round, PEOPLE);
    return client
        .json("imports", "add", file.toString(), "--source=hr")
        .path("changeSet")
        .asString();
  }

  private List<Rest.Answer> atOnce(String first, String second) throws Exception {
    var together = new CyclicBarrier(2);
    try (var threads = Executors.newFixedThreadPool(2)) {
      var calls = new ArrayList<Callable<Rest.Answer>>();
      calls.add(() -> act(together, ada, first));
      calls.add(() -> act(together, bo, second));
      var answers = new ArrayList<Rest.Answer>();
      for (var done : threads.invokeAll(calls)) {
        answers.add(done.get());
      }
      return answers;
    }
  }

  private static Rest.Answer act(CyclicBarrier together, Rest who, String path) throws Exception {
    together.await();
    return who.json("POST", path, "{\"reason\": \"a trial\"}");
  }

  private long accounts() {
    return stage.mailHouse().accounts().count();
  }

  private String state(String set) {
    return client.json("changes", "show", set).path("state").asString();
  }

  @Test
  public void aSetThatTwoReleaseIsCarriedOutOnce() throws Exception {
    for (int i = 0; i < ROUNDS; i++) {
      var before = accounts();
      var set = shown();
      var answers =
          atOnce(
              "/api/v1/change-sets/" + set + "/release", "/api/v1/change-sets/" + set + "/release");
      client.settle();

      assertThat(answers).extracting(Rest.Answer::status).as("one of them is told").contains(202);
      assertThat(answers).extracting(Rest.Answer::status).allMatch(code -> code < 500);
      assertThat(accounts()).isEqualTo(before + PEOPLE);
      assertThat(stage.mailHouse().writes().stream().filter("POST /scim/v2/Users"::equals).count())
          .as("none is made twice")
          .isEqualTo(accounts());
    }
  }

  @Test
  public void aSetThatOneReleasesAndAnotherDiscardsIsOneOrTheOther() throws Exception {
    int released = 0;
    for (int i = 0; i < ROUNDS; i++) {
      var before = accounts();
      var set = shown();
      var answers =
          atOnce(
              "/api/v1/change-sets/" + set + "/release", "/api/v1/change-sets/" + set + "/discard");
      client.settle();

      assertThat(answers).extracting(Rest.Answer::status).allMatch(code -> code < 500);
      if (state(set).equals("released")) {
        released++;
        assertThat(answers.get(1).status()).as("who came second is told").isBetween(400, 499);
        assertThat(accounts()).isEqualTo(before + PEOPLE);
      } else {
        assertThat(state(set)).isEqualTo("discarded");
        assertThat(answers.get(0).status()).as("who came second is told").isBetween(400, 499);
        assertThat(accounts()).isEqualTo(before);
        assertThat(client.json("changes", "show", set).path("counts").valueStream())
            .allMatch(count -> count.path("state").asString().equals("withdrawn"));
      }
    }
    System.out.printf("Released %d of %d%n", released, ROUNDS);
  }
}
