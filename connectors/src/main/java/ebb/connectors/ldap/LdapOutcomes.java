package ebb.connectors.ldap;

import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.ResultCode;
import ebb.core.application.Outcome;
import ebb.core.problem.Problem;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** What a result code (RFC 4511, appendix A) means for a change. */
final class LdapOutcomes {
  private static final Set<ResultCode> NOT_SENT =
      Set.of(ResultCode.CONNECT_ERROR, ResultCode.UNAVAILABLE, ResultCode.BUSY);

  /** The client's own codes for a connection lost or an answer that did not come. */
  private static final Set<ResultCode> NO_ANSWER =
      Set.of(
          ResultCode.SERVER_DOWN,
          ResultCode.TIMEOUT,
          ResultCode.LOCAL_ERROR,
          ResultCode.DECODING_ERROR,
          ResultCode.OTHER);

  private static final Set<ResultCode> MAY_PASS =
      Set.of(
          ResultCode.UNWILLING_TO_PERFORM,
          ResultCode.TIME_LIMIT_EXCEEDED,
          ResultCode.ADMIN_LIMIT_EXCEEDED,
          ResultCode.INVALID_CREDENTIALS,
          ResultCode.INSUFFICIENT_ACCESS_RIGHTS);

  private static final Map<ResultCode, String> REMEDIES =
      Map.of(
          ResultCode.ENTRY_ALREADY_EXISTS,
              "Sync the directory and link that entry, or give the person another login.",
          ResultCode.NO_SUCH_OBJECT, "Sync the directory: what the change refers to is not there.",
          ResultCode.OBJECT_CLASS_VIOLATION,
              "The directory demands another attribute: add it to the rule.",
          ResultCode.CONSTRAINT_VIOLATION, "The directory does not take this value: correct it.",
          ResultCode.INVALID_ATTRIBUTE_SYNTAX,
              "The directory does not take this value: correct it.",
          ResultCode.UNDEFINED_ATTRIBUTE_TYPE,
              "The directory does not know the attribute: correct the application's settings.",
          ResultCode.INVALID_CREDENTIALS, "Give Ebb the right password for the directory.",
          ResultCode.INSUFFICIENT_ACCESS_RIGHTS, "Give Ebb's entry the right to do this.",
          ResultCode.SIZE_LIMIT_EXCEEDED, "Let Ebb's entry read without a size limit.");

  private final String application;

  LdapOutcomes(String application) {
    this.application = application;
  }

  Outcome of(LDAPException e) {
    var code = e.getResultCode();
    var problem = problem(e);
    if (NOT_SENT.contains(code) || MAY_PASS.contains(code)) {
      return new Outcome.RetryLater(null, problem);
    }
    return NO_ANSWER.contains(code) ? new Outcome.Unknown(problem) : new Outcome.Refused(problem);
  }

  Problem noBase(String base) {
    return new Problem(
        "base-not-there",
        "%s has no entry %s, or does not show it to Ebb.".formatted(application, base),
        "Nothing can be read or made below it.",
        "Correct the setting, or let Ebb's entry read it.",
        null);
  }

  Problem problem(LDAPException e) {
    var code = e.getResultCode();
    var said = Optional.ofNullable(e.getDiagnosticMessage()).orElse(e.getMessage());
    var isDown = code == ResultCode.CONNECT_ERROR || code == ResultCode.SERVER_DOWN;
    return new Problem(
        isDown ? "application-down" : "ldap-" + code.getName().replace(' ', '-'),
        isDown
            ? "%s cannot be reached.".formatted(application)
            : "%s answered %d (%s).".formatted(application, code.intValue(), code.getName()),
        said,
        REMEDIES.getOrDefault(
            code,
            isDown
                ? "See whether it runs; its changes wait and are tried again by themselves."
                : "See what the directory's own log says, then retry."),
        null);
  }
}
