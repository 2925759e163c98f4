package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Scenario;
import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import org.testng.annotations.Test;

public class DemoTest {
  @Test
  public void twoDaysAndSixWeeksOfSkerrowFerriesComeTrue() throws Exception {
    var said = new ByteArrayOutputStream();
    boolean allTrue;
    try (var stage = Services.startAlone();
        var out = new PrintStream(said, true, StandardCharsets.UTF_8)) {
      allTrue = Scenario.run(stage, out);
    }

    assertThat(allTrue).as(said.toString(StandardCharsets.UTF_8)).isTrue();
  }
}
