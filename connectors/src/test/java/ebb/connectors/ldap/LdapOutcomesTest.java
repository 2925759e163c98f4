package ebb.connectors.ldap;

import static org.assertj.core.api.Assertions.assertThat;

import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.ResultCode;
import ebb.core.application.Outcome;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class LdapOutcomesTest {
  private final LdapOutcomes outcomes = new LdapOutcomes("directory", "127.0.0.1");

  /** RFC 4511, appendix A; RFC 4528, 2; and the client's own. */
  @DataProvider
  Object[][] codes() {
    return new Object[][] {
      {ResultCode.OPERATIONS_ERROR, Outcome.Unknown.class, "log"},
      {ResultCode.PROTOCOL_ERROR, Outcome.Refused.class, "log"},
      {ResultCode.TIME_LIMIT_EXCEEDED, Outcome.RetryLater.class, "index"},
      {ResultCode.SIZE_LIMIT_EXCEEDED, Outcome.Refused.class, "size limit"},
      {ResultCode.AUTH_METHOD_NOT_SUPPORTED, Outcome.Refused.class, "log"},
      {ResultCode.STRONG_AUTH_REQUIRED, Outcome.RetryLater.class, "starttls"},
      {ResultCode.REFERRAL, Outcome.RetryLater.class, "as host"},
      {ResultCode.ADMIN_LIMIT_EXCEEDED, Outcome.RetryLater.class, "index"},
      {ResultCode.CONFIDENTIALITY_REQUIRED, Outcome.RetryLater.class, "starttls"},
      {ResultCode.NO_SUCH_ATTRIBUTE, Outcome.Refused.class, "settings"},
      {ResultCode.UNDEFINED_ATTRIBUTE_TYPE, Outcome.Refused.class, "settings"},
      {ResultCode.CONSTRAINT_VIOLATION, Outcome.Refused.class, "value"},
      {ResultCode.ATTRIBUTE_OR_VALUE_EXISTS, Outcome.Refused.class, "value"},
      {ResultCode.INVALID_ATTRIBUTE_SYNTAX, Outcome.Refused.class, "value"},
      {ResultCode.NO_SUCH_OBJECT, Outcome.Refused.class, "Sync"},
      {ResultCode.INVALID_DN_SYNTAX, Outcome.Refused.class, "value"},
      {ResultCode.INAPPROPRIATE_AUTHENTICATION, Outcome.RetryLater.class, "password"},
      {ResultCode.INVALID_CREDENTIALS, Outcome.RetryLater.class, "password"},
      {ResultCode.INSUFFICIENT_ACCESS_RIGHTS, Outcome.Refused.class, "right"},
      {ResultCode.BUSY, Outcome.RetryLater.class, "by themselves"},
      {ResultCode.UNAVAILABLE, Outcome.RetryLater.class, "by themselves"},
      {ResultCode.UNWILLING_TO_PERFORM, Outcome.Refused.class, "log"},
      {ResultCode.LOOP_DETECT, Outcome.Refused.class, "log"},
      {ResultCode.NAMING_VIOLATION, Outcome.Refused.class, "rule"},
      {ResultCode.OBJECT_CLASS_VIOLATION, Outcome.Refused.class, "rule"},
      {ResultCode.NOT_ALLOWED_ON_NONLEAF, Outcome.Refused.class, "below"},
      {ResultCode.NOT_ALLOWED_ON_RDN, Outcome.Refused.class, "rule"},
      {ResultCode.ENTRY_ALREADY_EXISTS, Outcome.Refused.class, "login"},
      {ResultCode.OBJECT_CLASS_MODS_PROHIBITED, Outcome.Refused.class, "rule"},
      {ResultCode.OTHER, Outcome.Unknown.class, "log"},
      {ResultCode.ASSERTION_FAILED, Outcome.Met.class, "read anew"},
      {ResultCode.CONNECT_ERROR, Outcome.RetryLater.class, "by themselves"},
      {ResultCode.SERVER_DOWN, Outcome.Unknown.class, "by themselves"},
      {ResultCode.TIMEOUT, Outcome.Unknown.class, "what is true"},
      {ResultCode.LOCAL_ERROR, Outcome.Unknown.class, "what is true"},
      {ResultCode.DECODING_ERROR, Outcome.Unknown.class, "what is true"},
    };
  }

  @Test(dataProvider = "codes")
  public void eachResultCodeHasItsOutcomeAndARemedy(
      ResultCode code, Class<?> expected, String remedy) {
    var exception = new LDAPException(code, "said the server");

    assertThat(outcomes.of(exception)).isInstanceOf(expected);
    assertThat(outcomes.problem(exception).remedy()).contains(remedy);
    assertThat(outcomes.problem(exception).why()).contains("said the server");
  }

  @Test
  public void aReferralSaysWhereItPoints() {
    var exception =
        new LDAPException(
            ResultCode.REFERRAL,
            "shadow context",
            null,
            new String[] {"ldap://writes.skerrow.example"});

    assertThat(outcomes.problem(exception).why()).contains("ldap://writes.skerrow.example");
  }
}
