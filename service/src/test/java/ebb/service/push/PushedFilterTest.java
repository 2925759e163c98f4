package ebb.service.push;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import com.fasterxml.jackson.databind.JsonNode;
import com.unboundid.scim2.common.utils.FilterEvaluator;
import com.unboundid.scim2.common.utils.JsonUtils;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** RFC 7644, section 3.4.2.2: what a filter finds, and which are refused. */
public class PushedFilterTest {
  private static final String PERSON =
      """
      {
        "userName": "ida",
        "active": true,
        "name": {"familyName": "Holm"},
        "emails": [
          {"value": "ida@skerrow.example", "type": "work"},
          {"value": "ida@home.example", "type": "home"}
        ],
        "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User": {"department": "Deck"}
      }
      """;

  @DataProvider
  Object[][] found() {
    return new Object[][] {
      {"userName eq \"ida\""},
      {"USERNAME Eq \"ida\""},
      {"urn:ietf:params:scim:schemas:core:2.0:User:userName eq \"ida\""},
      {"URN:IETF:params:scim:schemas:core:2.0:User:name.familyName sw \"Ho\""},
      {"urn:ietf:params:scim:schemas:extension:enterprise:2.0:User:department eq \"Deck\""},
      {"urn:ietf:params:scim:schemas:core:2.0:User:emails[type eq \"work\"]"},
      {"urn:ietf:params:scim:schemas:core:2.0:User:emails co \"@home\""},
      {"urn:ietf:params:scim:schemas:core:2.0:User:active pr"},
      {"emails co \"skerrow\""},
      {"emails eq \"ida@home.example\""},
      {"emails.value ew \"home.example\""},
      {"emails[type eq \"home\" and value co \"ida\"]"},
      {"emails pr"},
      {"not (emails co \"elsewhere\")"},
      {"userName eq \"x\" or (emails sw \"ida@\" and active eq true)"},
      {"userName ne \"a [b\""},
      {"userName ne \"a \\\"[b\""},
    };
  }

  @DataProvider
  Object[][] notFound() {
    return new Object[][] {
      {"urn:ietf:params:scim:schemas:core:2.0:User:userName eq \"per\""},
      {"emails co \"elsewhere\""},
      {"emails[type eq \"work\" and value co \"home\"]"},
      {"urn:ietf:params:scim:schemas:extension:enterprise:2.0:User:userName eq \"ida\""},
      {"not (userName pr)"},
    };
  }

  @DataProvider
  Object[][] refused() {
    return new Object[][] {
      {"emails[type eq \"work\""},
      {"emails[type eq \"work\" and userName eq \"ida\""},
      {"emails[type eq \"]\""},
      {"emails]"},
      {"(userName eq \"ida\""},
      {"userName eq \"ida"},
      {"userName eq ida"},
      {"userName"},
      {"userName like \"ida\""},
      {"userName eq \"ida\" and"},
      {"userName eq \"ida\" userName eq \"per\""},
      {"not userName pr"},
    };
  }

  @Test(dataProvider = "found")
  public void whatIsMeantIsFound(String filter) throws Exception {
    assertThat(isFound(filter)).isTrue();
  }

  @Test(dataProvider = "notFound")
  public void whatIsNotMeantIsNotFound(String filter) throws Exception {
    assertThat(isFound(filter)).isFalse();
  }

  @Test(dataProvider = "refused")
  public void whatIsNotUnderstoodIsRefused(String filter) {
    var refusal = catchThrowableOfType(Refusal.class, () -> PushedFilter.parse(filter));

    assertThat(refusal).isNotNull();
    assertThat(refusal.problems()).extracting(Problem::code).containsExactly("scim-filter-invalid");
  }

  private static boolean isFound(String filter) throws Exception {
    JsonNode person = JsonUtils.getObjectReader().readTree(PERSON);
    return FilterEvaluator.evaluate(PushedFilter.parse(filter), person);
  }
}
