package ebb.service.connections;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.problem.Problem;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class SettingsCheckTest {
  private static final Map<String, String> NEEDED =
      Map.of("address", "https://house.example/scim/v2", "network", "internal");

  @DataProvider
  public Object[][] taken() {
    return new Object[][] {
      {Map.of("mail", "imap://mail.example", "mailSecurity", "none")},
      {Map.of("mail", "imaps://mail.example", "mailShare", "yes", "removal", "keep")},
      {Map.of("calendars", "https://calendars.example/{login}/", "calendarsTell", "yes")},
      {Map.of("files", "https://files.example/{login}", "recipient.files", "archive")},
      {Map.of("mail", "imaps://mail.example", "mailPastAfter", "365", "recipient.past-mail", "x")}
    };
  }

  @Test(dataProvider = "taken")
  public void settingsOfServersBesideAnApplicationAreTaken(Map<String, String> more) {
    assertThat(problems(more)).isEmpty();
  }

  @DataProvider
  public Object[][] refused() {
    return new Object[][] {
      {Map.of("mail", "http://mail.example"), "mail"},
      {Map.of("mail", "imaps://mail.example", "mailShare", "yes"), "mailShare"},
      {Map.of("mail", "imaps://mail.example", "mailShare", "often"), "mailShare"},
      {Map.of("calendars", "https://calendars.example/"), "calendars"},
      {Map.of("calendars", "ftp://calendars.example/{login}/"), "calendars"},
      {
        Map.of("calendars", "https://calendars.example/{login}/", "calendarsTell", "maybe"),
        "calendarsTell"
      },
      {Map.of("files", "https://files.example/"), "files"},
      {Map.of("fils", "https://files.example/{login}/"), "fils"},
      {Map.of("files", "https://files.example/{login}/", "filesPastAfter", "0"), "filesPastAfter"},
      {
        Map.of(
            "mail",
            "imaps://mail.example",
            "mailShare",
            "yes",
            "removal",
            "keep",
            "mailPastAfter",
            "365"),
        "mailPastAfter"
      },
      {Map.of("removal", "perhaps"), "removal"}
    };
  }

  @Test(dataProvider = "refused")
  public void aSettingThatWouldDoHarmOrNothingIsRefusedByName(
      Map<String, String> more, String field) {
    assertThat(problems(more)).isNotEmpty().allMatch(one -> field.equals(one.where().column()));
  }

  private static List<Problem> problems(Map<String, String> more) {
    var settings = new HashMap<>(NEEDED);
    settings.putAll(more);
    return SettingsCheck.problems("scim", settings, null);
  }
}
