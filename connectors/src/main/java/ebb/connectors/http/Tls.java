package ebb.connectors.http;

import ebb.core.application.Secret;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.KeyFactory;
import java.security.KeyStore;
import java.security.PrivateKey;
import java.security.cert.Certificate;
import java.security.cert.CertificateFactory;
import java.security.spec.PKCS8EncodedKeySpec;
import java.util.Base64;
import java.util.Collection;
import java.util.List;
import javax.net.ssl.SSLContext;
import org.apache.hc.core5.ssl.SSLContextBuilder;

/**
 * With whom Ebb speaks over TLS.
 *
 * @param trusted certificates of those who vouch for the application, as PEM; empty for those the
 *     Java platform trusts
 * @param certificate what Ebb shows of itself, as PEM; empty for nothing
 * @param key the private key of that certificate, as PEM (PKCS #8, not encrypted); empty for none
 */
public record Tls(String trusted, String certificate, Secret key) {
  public static final Tls USUAL = new Tls("", "", new Secret(""));

  private static final List<String> ALGORITHMS = List.of("EC", "RSA", "Ed25519");
  private static final char[] NO_PASSWORD = {};

  /**
   * @throws GeneralSecurityException if a certificate or key cannot be read, or they do not fit
   */
  public SSLContext context() throws GeneralSecurityException {
    try {
      var context = SSLContextBuilder.create();
      if (!trusted.isBlank()) {
        var store = emptyStore();
        var number = 0;
        for (var one : certificates(trusted)) {
          store.setCertificateEntry("trusted-" + ++number, one);
        }
        context.loadTrustMaterial(store, null);
      }
      if (!certificate.isBlank()) {
        var store = emptyStore();
        var chain = certificates(certificate).toArray(Certificate[]::new);
        store.setKeyEntry("ebb", privateKey(key.reveal()), NO_PASSWORD, chain);
        context.loadKeyMaterial(store, NO_PASSWORD);
      }
      return context.build();
    } catch (IOException | IllegalArgumentException e) {
      throw new GeneralSecurityException(e.getMessage(), e);
    }
  }

  private static KeyStore emptyStore() throws GeneralSecurityException, IOException {
    var store = KeyStore.getInstance("PKCS12");
    store.load(null, NO_PASSWORD);
    return store;
  }

  private static Collection<? extends Certificate> certificates(String pem)
      throws GeneralSecurityException {
    return CertificateFactory.getInstance("X.509")
        .generateCertificates(new ByteArrayInputStream(pem.getBytes(StandardCharsets.US_ASCII)));
  }

  private static PrivateKey privateKey(String pem) throws GeneralSecurityException {
    var base64 = pem.replaceAll("-----[A-Z ]+-----", "").replaceAll("\\s", "");
    var spec = new PKCS8EncodedKeySpec(Base64.getDecoder().decode(base64));
    for (var algorithm : ALGORITHMS) {
      try {
        return KeyFactory.getInstance(algorithm).generatePrivate(spec);
      } catch (GeneralSecurityException _) {
        // A key of another kind: the file does not say of which.
      }
    }
    throw new GeneralSecurityException("The private key is none of " + ALGORITHMS);
  }
}
