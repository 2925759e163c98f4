package ebb.connectors.ldap;

import static org.assertj.core.api.Assertions.assertThat;

import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.ResultCode;
import ebb.core.application.Outcome;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class LdapOutcomesTest {
  @DataProvider
  Object[][] codes() {
    return new Object[][] {
      {ResultCode.CONNECT_ERROR, Outcome.RetryLater.class},
      {ResultCode.BUSY, Outcome.RetryLater.class},
      {ResultCode.UNAVAILABLE, Outcome.RetryLater.class},
      {ResultCode.INVALID_CREDENTIALS, Outcome.RetryLater.class},
      {ResultCode.INSUFFICIENT_ACCESS_RIGHTS, Outcome.RetryLater.class},
      {ResultCode.SERVER_DOWN, Outcome.Unknown.class},
      {ResultCode.TIMEOUT, Outcome.Unknown.class},
      {ResultCode.NO_SUCH_OBJECT, Outcome.Refused.class},
      {ResultCode.ENTRY_ALREADY_EXISTS, Outcome.Refused.class},
      {ResultCode.OBJECT_CLASS_VIOLATION, Outcome.Refused.class},
      {ResultCode.CONSTRAINT_VIOLATION, Outcome.Refused.class},
      {ResultCode.INVALID_ATTRIBUTE_SYNTAX, Outcome.Refused.class},
    };
  }

  @Test(dataProvider = "codes")
  public void eachResultCodeHasItsOutcomeAndARemedy(ResultCode code, Class<?> expected) {
    var outcomes = new LdapOutcomes("directory");
    var exception = new LDAPException(code, "said the server");

    assertThat(outcomes.of(exception)).isInstanceOf(expected);
    assertThat(outcomes.problem(exception).remedy()).isNotBlank();
    assertThat(outcomes.problem(exception).why()).contains("said the server");
  }
}
