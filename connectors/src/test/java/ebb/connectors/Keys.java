package ebb.connectors;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.KeyStore;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;

/** Keys and certificates in a folder, made by the platform's own tool. */
public final class Keys {
  public static final char[] PASSWORD = "password".toCharArray();

  private final Path folder;

  public Keys(Path folder) {
    this.folder = folder;
  }

  /**
   * Makes a key with a certificate of its own. RSA: Debian's slapd cannot read others of this tool.
   *
   * @param more an extension, as in "san=ip:127.0.0.1"
   */
  public void make(String name, String more) throws Exception {
    tool(
        name,
        "-genkeypair",
        "-keyalg",
        "RSA",
        "-keysize",
        "2048",
        "-dname",
        "CN=" + name,
        "-ext",
        more);
  }

  /** Calls keytool about one key. */
  public void tool(String name, String... arguments) throws Exception {
    var all = new ArrayList<>(List.of(arguments));
    all.addAll(1, List.of("-alias", name));
    run(name, all.toArray(String[]::new));
  }

  /** Calls keytool about one store. */
  public void run(String name, String... arguments) throws Exception {
    var command = new ArrayList<String>();
    command.add(Path.of(System.getProperty("java.home"), "bin", "keytool").toString());
    command.addAll(List.of("-J-XX:TieredStopAtLevel=1", "-J-XX:+UseSerialGC"));
    command.addAll(List.of(arguments));
    command.addAll(
        List.of("-keystore", folder.resolve(name).toString(), "-storepass", new String(PASSWORD)));
    var made = new ProcessBuilder(command).redirectErrorStream(true).start();
    var said = new String(made.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(made.waitFor()).as(said).isZero();
  }

  public KeyStore store(String name) throws Exception {
    return KeyStore.getInstance(folder.resolve(name).toFile(), PASSWORD);
  }

  /** As PEM. */
  public String certificate(String name) throws Exception {
    return pem("CERTIFICATE", store(name).getCertificate(name).getEncoded());
  }

  /** As PEM (PKCS #8). */
  public String privateKey(String name) throws Exception {
    return pem("PRIVATE KEY", store(name).getKey(name, PASSWORD).getEncoded());
  }

  private static String pem(String what, byte[] bytes) throws IOException {
    return "-----BEGIN %s-----\n%s\n-----END %s-----\n"
        .formatted(what, Base64.getMimeEncoder().encodeToString(bytes), what);
  }
}
