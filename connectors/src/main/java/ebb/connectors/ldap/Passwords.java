package ebb.connectors.ldap;

import com.unboundid.ldap.sdk.Control;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.LDAPResult;
import com.unboundid.ldap.sdk.ResultCode;
import com.unboundid.ldap.sdk.experimental.DraftBeheraLDAPPasswordPolicy10ErrorType;
import com.unboundid.ldap.sdk.experimental.DraftBeheraLDAPPasswordPolicy10RequestControl;
import com.unboundid.ldap.sdk.experimental.DraftBeheraLDAPPasswordPolicy10ResponseControl;
import com.unboundid.ldap.sdk.extensions.PasswordModifyExtendedRequest;
import ebb.core.application.Outcome;
import ebb.core.application.Secret;
import ebb.core.application.Unreachable;
import java.util.Optional;

/**
 * Sets passwords (RFC 3062), and understands what a password policy says of them
 * (draft-behera-ldap-password-policy-10, 6.2).
 */
final class Passwords {
  private final Directory directory;
  private final LdapOutcomes outcomes;

  Passwords(Directory directory, LdapOutcomes outcomes) {
    this.directory = directory;
    this.outcomes = outcomes;
  }

  Outcome set(String dn, Secret password) throws LDAPException, Unreachable {
    var controls =
        directory.features().hasPasswordPolicy()
            ? new Control[] {new DraftBeheraLDAPPasswordPolicy10RequestControl()}
            : new Control[0];
    var request = new PasswordModifyExtendedRequest(dn, null, password.reveal(), controls);
    try {
      directory.write(
          () -> "dn: %s\n# password modify (RFC 3062), (secret)".formatted(dn),
          pool -> succeeded(pool.processExtendedOperation(request)));
      return new Outcome.Accepted();
    } catch (LDAPException e) {
      var said = said(e);
      if (said.isPresent()) {
        return new Outcome.Refused(outcomes.password(said.get()));
      }
      throw e;
    }
  }

  private static LDAPResult succeeded(LDAPResult result) throws LDAPException {
    if (result.getResultCode() != ResultCode.SUCCESS) {
      throw new LDAPException(result);
    }
    return result;
  }

  private static Optional<String> said(LDAPException e) {
    try {
      var response = DraftBeheraLDAPPasswordPolicy10ResponseControl.get(e.toLDAPResult());
      return Optional.ofNullable(response)
          .map(DraftBeheraLDAPPasswordPolicy10ResponseControl::getErrorType)
          .map(Passwords::words);
    } catch (LDAPException _) {
      // An answer of another kind: the result code says enough.
      return Optional.empty();
    }
  }

  private static String words(DraftBeheraLDAPPasswordPolicy10ErrorType error) {
    return switch (error) {
      case PASSWORD_TOO_SHORT -> "It is too short.";
      case PASSWORD_IN_HISTORY -> "It was used before.";
      case PASSWORD_TOO_YOUNG -> "The one before was set too recently.";
      case INSUFFICIENT_PASSWORD_QUALITY -> "It is too easy to guess.";
      case PASSWORD_MOD_NOT_ALLOWED -> "It may not be changed.";
      case ACCOUNT_LOCKED -> "The account is locked.";
      default -> "The password policy there says: %s.".formatted(error.getName());
    };
  }
}
