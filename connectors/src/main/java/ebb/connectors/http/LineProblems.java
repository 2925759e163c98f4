package ebb.connectors.http;

import ebb.core.problem.Problem;
import java.security.cert.CertificateExpiredException;
import java.security.cert.CertificateNotYetValidException;
import java.util.Optional;
import java.util.regex.Pattern;
import javax.net.ssl.SSLException;
import javax.net.ssl.SSLPeerUnverifiedException;

/** Why no line to an application comes about, whatever would be spoken over it. */
public final class LineProblems {
  /** How the platform says that a certificate belongs to another name: it has no type for it. */
  private static final Pattern OTHER_NAME =
      Pattern.compile("No subject alternative|No name matching");

  private final String application;
  private final String base;

  /**
   * @param base where it is called, in words
   */
  public LineProblems(String application, String base) {
    this.application = application;
    this.base = base;
  }

  /** Empty if neither the address nor the certificates are what is amiss. */
  public Optional<Problem> of(Throwable e) {
    return find(e, Network.NotAllowed.class)
        .map(this::notThere)
        .or(() -> find(e, SSLException.class).map(this::notTrusted));
  }

  private static <T> Optional<T> find(Throwable e, Class<T> kind) {
    for (var cause = e; cause != null; cause = cause.getCause()) {
      if (kind.isInstance(cause)) {
        return Optional.of(kind.cast(cause));
      }
    }
    return Optional.empty();
  }

  private Problem notThere(Network.NotAllowed e) {
    return new Problem(
        "address-internal",
        "%s was not called.".formatted(application),
        e.getMessage() + ", and the application is not said to stand there.",
        "Correct its address; or, if it is meant, set network=internal.",
        null);
  }

  private Problem notTrusted(SSLException e) {
    if (find(e, CertificateExpiredException.class).isPresent()) {
      return certificate(
          "certificate-expired",
          "The certificate of %s has expired.".formatted(application),
          e,
          "Have it renewed there; nothing is sent until then, and the changes wait.");
    }
    if (find(e, CertificateNotYetValidException.class).isPresent()) {
      return certificate(
          "certificate-not-yet-valid",
          "The certificate of %s is not valid yet.".formatted(application),
          e,
          "See whether the clocks here and there are right.");
    }
    if (e instanceof SSLPeerUnverifiedException || OTHER_NAME.matcher(said(e)).find()) {
      return certificate(
          "certificate-of-another",
          "The certificate at %s belongs to another name.".formatted(base),
          e,
          "Correct the address, or see who answers there.");
    }
    if (said(e).contains("PKIX")) {
      return certificate(
          "certificate-not-trusted",
          "Nobody whom Ebb trusts vouches for the certificate of %s.".formatted(application),
          e,
          "If it is right, set trusted to the certificate of who signed it.");
    }
    return certificate(
        "secure-line-failed",
        "No secure line to %s comes about.".formatted(application),
        e,
        "If it asks for a certificate of ours, set certificate and the secret key.");
  }

  private static String said(SSLException e) {
    return String.valueOf(e.getMessage());
  }

  private static Problem certificate(String code, String what, SSLException e, String remedy) {
    return new Problem(code, what, said(e), remedy, null);
  }
}
