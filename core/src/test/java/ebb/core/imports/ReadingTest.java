package ebb.core.imports;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.Chance;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class ReadingTest {
  @Test
  public void onlyRowsThatDifferFromLastTimeAreLookedAt() {
    var keys = new KeyTable(0);
    keys.know(Print.of("7"), 1, Print.of("as before"), true);
    keys.know(Print.of("8"), 2, Print.of("as before"), true);
    keys.know(Print.of("9"), 3, null, true);
    keys.know(Print.of("10"), 4, Print.of("as before"), false);
    var reading = new Reading();
    reading.add(2, Print.of("7"), Print.of("as before"));
    reading.add(3, Print.of("8"), Print.of("another way"));
    reading.add(4, Print.of("9"), Print.of("as before"));
    reading.add(5, Print.of("10"), Print.of("as before"));
    reading.add(6, Print.of("11"), Print.of("new"));
    reading.add(7, Print.of("7"), Print.of("as before"));
    reading.add(8, Print.of(""), Print.of("as before"));

    var compared = reading.compare(keys, reading.unlike(keys));

    assertThat(compared.different().stream())
        .as("changed, to be compared, never released, new, named twice, without a key")
        .containsExactly(1, 2, 3, 4, 5, 6);
    assertThat(compared.withoutKey()).isEqualTo(1);
    assertThat(compared.doubled()).isEqualTo(1);
    assertThat(compared.strangers()).as("never released, and new").isEqualTo(2);
  }

  @Test
  public void ofTwoRowsThatSayDifferentThingsOfOneKeyBothAreLookedAt() {
    var keys = new KeyTable(0);
    keys.know(Print.of("7"), 1, Print.of("as before"), true);
    var reading = new Reading();
    reading.add(2, Print.of("7"), Print.of("as before"));
    reading.add(3, Print.of("8"), Print.of("new"));
    reading.add(4, Print.of("7"), Print.of("otherwise"));

    var compared = reading.compare(keys, reading.unlike(keys));

    assertThat(compared.different().stream()).containsExactly(0, 1, 2);
    assertThat(keys.line(Print.of("7"))).isEqualTo(2);
    assertThat(keys.lineAgain(Print.of("7"))).isEqualTo(4);
    assertThat(keys.lineAgain(Print.of("8"))).isZero();
  }

  @Test
  public void keysThatDifferInCapitalsAloneAreFoundAmongVeryMany() {
    var reading = new Reading();
    for (int i = 0; i < 5_000; i++) {
      reading.add(2 + i, Print.of("K" + i), Print.of("row " + i));
      reading.folded(Print.of("k" + i));
    }
    reading.add(5_002, Print.of("k77"), Print.of("somebody else"));
    reading.folded(Print.of("k77"));
    reading.add(5_003, Print.of("K78"), Print.of("the same key"));
    reading.folded(Print.of("k78"));

    assertThat(reading.lineLike(79)).isEqualTo(5_002);
    assertThat(reading.lineLike(5_002)).isEqualTo(79);
    assertThat(reading.lineLike(80)).isZero();
    assertThat(reading.lineLike(5_003)).isZero();
    var keys = new KeyTable(0);
    assertThat(reading.compare(keys, new BitSet()).different().stream())
        .as("both of the two, and the key that stands there twice")
        .containsExactly(77, 78, 5_000, 5_001);
  }

  @Test
  public void whomNoLineNamesHasVanishedIfEverReleased() {
    var keys = new KeyTable(0);
    keys.know(Print.of("7"), 1, null, true);
    keys.know(Print.of("8"), 2, null, true);
    keys.know(Print.of("9"), 3, null, false);
    var reading = new Reading();
    reading.add(2, Print.of("7"), Print.of("x"));

    reading.compare(keys, reading.unlike(keys));

    assertThat(keys.vanished()).containsExactly(2L);
    assertThat(keys.countReleased()).isEqualTo(2);
  }

  @Test
  public void aNewKeyStandsForWhoeverHadTheFormerOneUnlessTheFileNamesThatToo() {
    var keys = new KeyTable(0);
    keys.know(Print.of("7"), 1, Print.of("as before"), true);
    keys.know(Print.of("8"), 2, Print.of("as before"), true);
    keys.know(Print.of("17"), 9, null, false);
    var reading = new Reading();
    reading.add(2, Print.of("17"), Print.of("as before"));
    reading.formerly(Print.of("7"));
    reading.add(3, Print.of("18"), Print.of("as before"));
    reading.formerly(Print.of("8"));
    reading.add(4, Print.of("8"), Print.of("as before"));
    reading.add(5, Print.of("27"), Print.of("as before"));
    reading.formerly(Print.of("7"));

    var compared = reading.compare(keys, reading.unlike(keys));

    assertThat(compared.different().stream())
        .as("even word for word: the key is another")
        .containsExactly(0, 1, 3);
    assertThat(keys.person(Print.of("17"))).isEqualTo(1);
    assertThat(keys.isRekeyed(Print.of("17"))).isTrue();
    assertThat(keys.isRekeyed(Print.of("18"))).as("8 is named itself").isFalse();
    assertThat(keys.isRekeyed(Print.of("27"))).as("the second who had it").isFalse();
    assertThat(compared.strangers()).as("18 and 27").isEqualTo(2);
    assertThat(keys.vanished()).isEmpty();
  }

  /** Rows at any lines, among them some that are compared with nothing. */
  @Test(dataProvider = "seeds")
  public void theLinesOfSomeRowsHoldThoseRowsAndNoOther(long seed) {
    var random = Chance.random(seed);
    int asked = 0;
    for (int file = 0; file < 400; file++) {
      var reading = new Reading();
      var lines = new ArrayList<Long>();
      var all = new ArrayList<Long>();
      long line = 1;
      for (int i = random.nextInt(40); i >= 0; i--) {
        line += 1 + random.nextInt(3);
        all.add(line);
        if (random.nextInt(4) == 0) {
          reading.passOver(line);
        } else {
          reading.add(line, Print.of("k" + i), Print.of("row"));
          lines.add(line);
        }
      }
      var rows = new BitSet();
      var wanted = new ArrayList<Long>();
      for (int row = 0; row < lines.size(); row++) {
        if (random.nextInt(3) > 0) {
          rows.set(row);
          wanted.add(lines.get(row));
        }
      }
      var ranges = reading.lines(rows);
      assertThat(all.stream().filter(one -> ranges.stream().anyMatch(range -> isIn(one, range))))
          .as("file %d of seed %d", file, seed)
          .containsExactlyElementsOf(wanted);
      asked += wanted.size();
    }
    assertThat(asked).isGreaterThan(2_000);
  }

  private static boolean isIn(long line, Lines range) {
    return range.from() <= line && line < range.to();
  }

  @DataProvider
  Object[][] seeds() {
    return new Object[][] {{1L}, {2L}, {3L}};
  }

  @Test(dataProvider = "seeds")
  public void aTableHoldsWhatAMapWouldHoldWhateverTheOrder(long seed) {
    var random = Chance.random(seed);
    var table = new KeyTable(random.nextInt(100));
    var people = new HashMap<String, Long>();
    var lines = new HashMap<String, Long>();
    var released = new HashSet<String>();
    for (int i = 1; i <= 20_000; i++) {
      var key = "k" + random.nextInt(8_000);
      switch (random.nextInt(3)) {
        case 0 -> {
          boolean isReleased = random.nextBoolean();
          table.know(Print.of(key), i, Print.of("row " + key), isReleased);
          people.put(key, (long) i);
          if (isReleased) {
            released.add(key);
          } else {
            released.remove(key);
          }
        }
        case 1 -> {
          long before = table.name(Print.of(key), i);
          assertThat(before).isEqualTo(lines.getOrDefault(key, 0L));
          lines.putIfAbsent(key, (long) i);
        }
        default -> {
          table.give(Print.of(key), i);
          people.put(key, (long) i);
        }
      }
    }

    for (int i = 0; i < 8_000; i++) {
      var key = "k" + i;
      assertThat(table.person(Print.of(key))).isEqualTo(people.getOrDefault(key, 0L));
      assertThat(table.line(Print.of(key))).isEqualTo(lines.getOrDefault(key, 0L));
      assertThat(table.isReleased(Print.of(key))).isEqualTo(released.contains(key));
    }
    var all = new HashSet<>(people.keySet());
    all.addAll(lines.keySet());
    assertThat(table.size()).isEqualTo(all.size());
  }
}
