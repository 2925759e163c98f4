package ebb.connectors.ldap;

import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.ResultCode;
import ebb.connectors.http.LineProblems;
import ebb.core.application.Outcome;
import ebb.core.problem.Problem;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;

/** What a result code (RFC 4511, appendix A) means for a change, and what to do about it. */
final class LdapOutcomes {
  private enum Meaning {
    /** Nothing would go through now. */
    LATER,
    /** Whether it was done is not known. */
    UNKNOWN,
    /** Somebody else changed the same. */
    MET,
    REFUSED
  }

  private record Rule(Meaning meaning, String remedy) {}

  private static final Map<Integer, Rule> RULES = new HashMap<>();

  static {
    rule(
        Meaning.LATER,
        "See whether it runs; its changes wait and are tried again by themselves.",
        ResultCode.CONNECT_ERROR,
        ResultCode.UNAVAILABLE,
        ResultCode.BUSY);
    rule(
        Meaning.LATER,
        "Give Ebb's entry larger limits there, or an index on what is searched for.",
        ResultCode.TIME_LIMIT_EXCEEDED,
        ResultCode.ADMIN_LIMIT_EXCEEDED);
    rule(
        Meaning.LATER,
        "Give Ebb the right name and password for the directory.",
        ResultCode.INVALID_CREDENTIALS,
        ResultCode.INAPPROPRIATE_AUTHENTICATION);
    rule(
        Meaning.LATER,
        "Set security to starttls or ldaps.",
        ResultCode.CONFIDENTIALITY_REQUIRED,
        ResultCode.STRONG_AUTH_REQUIRED);
    rule(
        Meaning.LATER,
        "This server only passes on what another one takes: give that one as host.",
        ResultCode.REFERRAL);
    rule(
        Meaning.UNKNOWN,
        "Ebb looks what is true there before it sends anything again.",
        ResultCode.SERVER_DOWN,
        ResultCode.TIMEOUT,
        ResultCode.LOCAL_ERROR,
        ResultCode.DECODING_ERROR);
    rule(
        Meaning.UNKNOWN,
        "See what the directory's own log says; Ebb looks what is true there and tries again.",
        ResultCode.OPERATIONS_ERROR,
        ResultCode.OTHER);
    rule(
        Meaning.MET,
        "It is read anew and tried again; if that goes on, see who else writes there.",
        ResultCode.ASSERTION_FAILED);
    rule(
        Meaning.REFUSED,
        "Sync the directory and link that entry, or give the person another login.",
        ResultCode.ENTRY_ALREADY_EXISTS);
    rule(
        Meaning.REFUSED,
        "Sync the directory: what the change refers to is not there.",
        ResultCode.NO_SUCH_OBJECT);
    rule(
        Meaning.REFUSED,
        "Move or delete what stands below the entry there, then retry.",
        ResultCode.NOT_ALLOWED_ON_NONLEAF);
    rule(
        Meaning.REFUSED,
        "The directory demands another attribute, or forbids this one: correct the rule.",
        ResultCode.OBJECT_CLASS_VIOLATION,
        ResultCode.NAMING_VIOLATION,
        ResultCode.NOT_ALLOWED_ON_RDN,
        ResultCode.OBJECT_CLASS_MODS_PROHIBITED);
    rule(
        Meaning.REFUSED,
        "The directory does not take this value: correct it.",
        ResultCode.CONSTRAINT_VIOLATION,
        ResultCode.INVALID_ATTRIBUTE_SYNTAX,
        ResultCode.INVALID_DN_SYNTAX,
        ResultCode.ATTRIBUTE_OR_VALUE_EXISTS);
    rule(
        Meaning.REFUSED,
        "The directory does not know the attribute: correct the application's settings.",
        ResultCode.UNDEFINED_ATTRIBUTE_TYPE,
        ResultCode.NO_SUCH_ATTRIBUTE);
    rule(
        Meaning.REFUSED,
        "Give Ebb's entry the right to do this, then retry.",
        ResultCode.INSUFFICIENT_ACCESS_RIGHTS);
    rule(
        Meaning.REFUSED,
        "Something in the directory forbids it: its own log says what. Then retry.",
        ResultCode.UNWILLING_TO_PERFORM);
    rule(
        Meaning.REFUSED,
        "Let Ebb's entry read without a size limit.",
        ResultCode.SIZE_LIMIT_EXCEEDED);
  }

  private static final Rule OTHERWISE =
      new Rule(Meaning.REFUSED, "See what the directory's own log says, then retry.");

  private final String application;
  private final LineProblems line;

  /**
   * @param servers where it is called, in words
   */
  LdapOutcomes(String application, String servers) {
    this.application = application;
    this.line = new LineProblems(application, servers);
  }

  private static void rule(Meaning meaning, String remedy, ResultCode... codes) {
    Arrays.stream(codes).forEach(code -> RULES.put(code.intValue(), new Rule(meaning, remedy)));
  }

  private static Rule rule(LDAPException e) {
    return RULES.getOrDefault(e.getResultCode().intValue(), OTHERWISE);
  }

  Outcome of(LDAPException e) {
    var problem = problem(e);
    return switch (rule(e).meaning()) {
      case LATER -> new Outcome.RetryLater(null, problem);
      case UNKNOWN -> new Outcome.Unknown(problem);
      case MET -> new Outcome.Met(problem);
      case REFUSED -> new Outcome.Refused(problem);
    };
  }

  /** Whether another connection might get through. */
  static boolean isConnectionLost(LDAPException e) {
    return e.getResultCode() == ResultCode.SERVER_DOWN;
  }

  Problem noBase(String base) {
    return new Problem(
        "base-not-there",
        "%s has no entry %s, or does not show it to Ebb.".formatted(application, base),
        "Nothing can be read or made below it.",
        "Correct the setting, or let Ebb's entry read it.",
        null);
  }

  Problem noSwitch() {
    return new Problem(
        "no-way-to-suspend",
        "%s has no way of suspending an entry.".formatted(application),
        "It is not said what keeps somebody from signing in there.",
        "Set suspend to attribute, lock (a password policy locks it) or move (it stands elsewhere).",
        null);
  }

  Problem unknownName(String setting, String name) {
    return new Problem(
        "schema-lacks-name",
        "%s does not know %s, which the setting %s names.".formatted(application, name, setting),
        "It is not in the schema that the directory shows.",
        "Correct the setting, or have it added to the schema.",
        null);
  }

  Problem notEncrypted() {
    return new Problem(
        "line-not-encrypted",
        "The line to %s is not encrypted.".formatted(application),
        "Ebb's password and all that it writes can be read on the way.",
        "Set security to starttls or ldaps.",
        null);
  }

  /** What a password policy said of a password. */
  Problem password(String why) {
    return new Problem(
        "password-refused",
        "%s did not take the password.".formatted(application),
        why,
        "Choose another one that its password policy allows.",
        null);
  }

  /** What refers to an entry by the name it had. */
  Problem leftBehind(int count, String some, LDAPException why) {
    return new Problem(
        "references-left-behind",
        "%,d in %s still refer to it by the name it had: %s.".formatted(count, application, some),
        answered(why).why(),
        "The rename is done. Let Ebb's entry write these, then retry; or correct them there.",
        null);
  }

  Problem problem(LDAPException e) {
    return line.of(e).orElseGet(() -> answered(e));
  }

  private Problem answered(LDAPException e) {
    var code = e.getResultCode();
    var said = Optional.ofNullable(e.getDiagnosticMessage()).orElse(e.getMessage());
    var isDown = code == ResultCode.CONNECT_ERROR || code == ResultCode.SERVER_DOWN;
    return new Problem(
        isDown ? "application-down" : "ldap-" + code.getName().replace(' ', '-'),
        isDown
            ? "%s cannot be reached.".formatted(application)
            : "%s answered %d (%s).".formatted(application, code.intValue(), code.getName()),
        said + referral(e),
        isDown ? RULES.get(ResultCode.CONNECT_ERROR_INT_VALUE).remedy() : rule(e).remedy(),
        null);
  }

  private static String referral(LDAPException e) {
    return e.getReferralURLs() == null || e.getReferralURLs().length == 0
        ? ""
        : " It points to %s.".formatted(String.join(", ", e.getReferralURLs()));
  }
}
