package ebb.core.imports;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class ManagerLoopsTest {
  private static final Map<Long, Long> KNOWN = Map.of(10L, 11L, 11L, 12L, 12L, 1L);

  @DataProvider
  Object[][] files() {
    return new Object[][] {
      {"nobody manages anybody", Map.of(), Set.of()},
      {"a line upwards", Map.of(1L, 2L, 2L, 3L), Set.of()},
      {"their own manager", Map.of(1L, 1L), Set.of(1L)},
      {"two of each other", Map.of(1L, 2L, 2L, 1L, 3L, 1L), Set.of(1L, 2L)},
      {"through people the file says nothing of", Map.of(1L, 10L, 2L, 1L), Set.of(1L)},
      {"beneath people known already", Map.of(5L, 11L), Set.of()},
    };
  }

  @Test(dataProvider = "files")
  public void findsThoseWhoseManagersLeadBackToThem(
      String what, Map<Long, Long> managers, Set<Long> loops) {
    var found =
        ManagerLoops.in(
            managers,
            asked ->
                KNOWN.entrySet().stream()
                    .filter(entry -> asked.contains(entry.getKey()))
                    .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue)));

    assertThat(found).as(what).isEqualTo(loops);
  }
}
