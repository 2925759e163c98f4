package ebb.core.change;

import static ebb.core.change.ChangeKind.CREATE;
import static ebb.core.change.ChangeKind.JOIN;
import static ebb.core.change.ChangeKind.RETURN;
import static ebb.core.change.ChangeKind.SUSPEND;
import static ebb.core.change.ChangeKind.UPDATE;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.EnumSet;
import java.util.List;
import org.testng.annotations.Test;

public class FindingTest {
  @Test
  public void theMostUrgentOfWhatDiffersNamesIt() {
    assertThat(Finding.of(List.of(UPDATE, SUSPEND, JOIN))).isEqualTo(Finding.ON_THERE);
    assertThat(Finding.of(List.of(JOIN, CREATE))).isEqualTo(Finding.MISSING);
    assertThat(Finding.of(List.of(UPDATE, RETURN))).isEqualTo(Finding.OFF_THERE);
    assertThat(Finding.of(List.of(UPDATE, JOIN))).isEqualTo(Finding.DRIFTED);
  }

  @Test
  public void eachIsAboutSomebodysAccountOrAboutOneOfNobodyOrIsLeftAlone() {
    for (var finding : EnumSet.allOf(Finding.class)) {
      assertThat(finding.isDrift() ^ finding.isOfNobody() ^ finding == Finding.LEFT_ALONE).isTrue();
    }
  }
}
