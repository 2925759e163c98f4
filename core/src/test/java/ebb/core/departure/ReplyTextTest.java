package ebb.core.departure;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.application.Replies.Reply;
import java.time.LocalDate;
import org.testng.annotations.Test;

public class ReplyTextTest {
  private static final LocalDate LAST_DAY = LocalDate.parse("2027-03-01");
  private static final ReplyText TEXT =
      new ReplyText(
          """
          {name} has left Skerrow Ferries

          The last day of {name} was {lastDay}.
          Please write to {recipient}, {address}.
          Nobody reads this.
          """,
          90);

  @Test
  public void theFirstLineIsTheSubjectAndAllPlacesAreFilled() {
    var reply = filled("Bea $1", "bea@skerrow.example");

    assertThat(reply.subject()).isEqualTo("Ada has left Skerrow Ferries");
    assertThat(reply.text())
        .isEqualTo(
            """
            The last day of Ada was 2027-03-01.
            Please write to Bea $1, bea@skerrow.example.
            Nobody reads this.""");
  }

  @Test
  public void aLineForWhichThereIsNothingIsLeftOut() {
    assertThat(filled("Bea", "").text())
        .isEqualTo(
            """
            The last day of Ada was 2027-03-01.
            Nobody reads this.""");
  }

  @Test
  public void whatCannotBeFilledOrIsTooMuchIsRefused() {
    assertThat(TEXT.problem()).isEmpty();
    assertThat(new ReplyText("{name} and {salary}", 90).problem())
        .hasValueSatisfying(problem -> assertThat(problem.what()).contains("{salary}"));
    assertThat(new ReplyText("text", 0).problem()).isPresent();
    assertThat(new ReplyText("x".repeat(4_001), 90).problem()).isPresent();
  }

  private static Reply filled(String recipient, String address) {
    return TEXT.filled("Ada", recipient, address, LAST_DAY, LAST_DAY.plusDays(90));
  }
}
