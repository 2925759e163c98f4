package ebb.store;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.Chance;
import ebb.core.application.Value;
import ebb.core.compare.Edit;
import ebb.core.person.PersonId;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.SortedMap;
import java.util.TreeMap;
import org.testng.annotations.Test;

@Test
public class EditsTest {
  public void whatAllShareIsWrittenOnce() {
    var edits = new TreeMap<String, Edit>();
    edits.put("title", new Edit(List.of(), Value.of("Mate"), "crew-mail"));
    edits.put("userName", new Edit(List.of(), Value.of("nmoss"), "crew-mail"));
    assertThat(Edits.write(edits))
        .isEqualTo(
            "{\"ground\":\"crew-mail\",\"edits\":{\"title\":\"Mate\",\"userName\":\"nmoss\"}}");
  }

  public void whatWasWrittenIsReadAgain() {
    var first = Chance.seed(0);
    for (long seed = first; seed < first + 500; seed++) {
      var edits = edits(new Random(seed));
      assertThat(Edits.read(Edits.write(edits))).as("seed %d", seed).isEqualTo(edits);
    }
  }

  public void nothingStaysNothing() {
    assertThat(Edits.write(null)).isNull();
    assertThat(Edits.read(null)).isNull();
  }

  private static SortedMap<String, Edit> edits(Random random) {
    var edits = new TreeMap<String, Edit>();
    for (int i = random.nextInt(5); i > 0; i--) {
      var name = List.of("before", "after", "ground", "edits", "accountOf").get(random.nextInt(5));
      edits.put(name, new Edit(texts(random), value(random), ground(random)));
    }
    return edits;
  }

  private static Value value(Random random) {
    return random.nextInt(4) == 0
        ? Value.accountOf(new PersonId(random.nextLong(1, 1L << 60)))
        : Value.of(texts(random));
  }

  private static String ground(Random random) {
    return List.of("one", "two", "").get(random.nextInt(3));
  }

  private static List<String> texts(Random random) {
    var texts = new ArrayList<String>();
    for (int i = random.nextInt(3); i > 0; i--) {
      texts.add(List.of("", "Øyvind", "\"{\u0000", "accountOf").get(random.nextInt(4)));
    }
    return texts;
  }
}
