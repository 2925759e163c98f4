package ebb.connectors.ldap;

import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.LDAPResult;
import ebb.core.application.Wire;
import ebb.core.application.Wire.Exchange;
import java.time.Instant;
import java.util.function.Supplier;

/** Notes what is sent to a directory, as LDIF (RFC 2849), and what came back. */
final class LdapWire {
  /** Sends one request. */
  interface Sending {
    LDAPResult send() throws LDAPException;
  }

  /**
   * @param what told only if somebody wants to know
   */
  static LDAPResult noting(Supplier<String> what, Sending sending) throws LDAPException {
    if (!Wire.isNoted()) {
      return sending.send();
    }
    var begin = Instant.now();
    try {
      var result = sending.send();
      note(begin, what, "0 (success)");
      return result;
    } catch (LDAPException e) {
      var said = e.getDiagnosticMessage() == null ? e.getMessage() : e.getDiagnosticMessage();
      note(begin, what, "%s\n%s".formatted(e.getResultCode(), said));
      throw e;
    }
  }

  private static void note(Instant begin, Supplier<String> what, String answer) {
    Wire.note(new Exchange(begin, Instant.now(), what.get().strip(), answer));
  }

  private LdapWire() {}
}
