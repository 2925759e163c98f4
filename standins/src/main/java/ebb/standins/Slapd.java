package ebb.standins;

import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.ResultCode;
import java.io.IOException;
import java.net.InetAddress;
import java.net.Socket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;

/**
 * Debian's slapd on loopback, with a directory of its own: no stand-in, but the real thing to try
 * against where it is installed.
 */
public final class Slapd implements AutoCloseable {
  /** A machine that has much to do takes its time. */
  private static final Duration LONGEST_START = Duration.ofSeconds(60);

  public static final String BASE = StaffDirectory.BASE;
  public static final String ROOT = "cn=root," + BASE;
  public static final String SUSPENDED = "ou=suspended," + BASE;
  public static final String READER = "cn=reader,ou=services," + BASE;

  private static final String CONFIGURATION =
      """
      include /etc/ldap/schema/core.schema
      include /etc/ldap/schema/cosine.schema
      include /etc/ldap/schema/inetorgperson.schema
      attributetype ( 1.3.6.1.4.1.55555.1.1 NAME 'loginAllowed' EQUALITY booleanMatch SYNTAX 1.3.6.1.4.1.1466.115.121.1.7 SINGLE-VALUE )
      attributetype ( 1.3.6.1.4.1.55555.1.2 NAME 'originKey' EQUALITY caseExactMatch SYNTAX 1.3.6.1.4.1.1466.115.121.1.15 SINGLE-VALUE )
      objectclass ( 1.3.6.1.4.1.55555.2.1 NAME 'skerrowPerson' SUP top AUXILIARY MAY ( loginAllowed $ originKey ) )
      pidfile %1$s/slapd.pid
      modulepath /usr/lib/ldap
      moduleload back_mdb
      %2$s
      access to dn.children="ou=people,dc=skerrow,dc=example" filter=(loginAllowed=FALSE) attrs=userPassword by dn.exact="cn=ebb,ou=services,dc=skerrow,dc=example" write by * none
      access to dn.children="ou=suspended,dc=skerrow,dc=example" attrs=userPassword by dn.exact="cn=ebb,ou=services,dc=skerrow,dc=example" write by * none
      access to attrs=userPassword by dn.exact="cn=ebb,ou=services,dc=skerrow,dc=example" write by anonymous auth by * none
      access to * by dn.exact="cn=ebb,ou=services,dc=skerrow,dc=example" write by * read
      database mdb
      maxsize 1073741824
      suffix "dc=skerrow,dc=example"
      rootdn "cn=root,dc=skerrow,dc=example"
      rootpw secret
      directory %1$s
      sizelimit 500
      %4$s
      index objectClass,originKey,entryUUID,entryCSN,uid,member,uniqueMember,manager eq
      %3$s
      """;

  /** Ebb reads all by pages only, unless a test says otherwise. */
  private static final String LIMITS = "limits dn.exact=\"" + StaffDirectory.ADMIN + "\" ";

  private static final String USUAL_LIMITS =
      LIMITS + "size.soft=100 size.hard=100 size.prtotal=unlimited";

  /** A line of configuration: Ebb reads as much as it asks for. */
  public static final String NO_LIMITS = LIMITS + "size=unlimited";

  private final Path folder;
  private final List<String> command;
  private final int port;
  private final int securePort;
  private Process process;

  private Slapd(Path folder, List<String> command, int port, int securePort) {
    this.securePort = securePort;
    this.folder = folder;
    this.command = command;
    this.port = port;
  }

  /**
   * Starts a server that holds no people, and the groups "watch" (by member) and "crew" (by
   * uniqueMember).
   *
   * @param global lines of its configuration before the database
   * @param overlays lines after it
   */
  public static Slapd start(String global, String overlays) throws Exception {
    var slapd = stopped(global, overlays);
    slapd.resume();
    slapd.fill();
    return slapd;
  }

  /** Starts it anew with other lines of configuration; what it held is there. */
  public void configure(String global, String overlays) throws Exception {
    stop();
    write(folder, global, overlays);
    resume();
  }

  /** Adds entries while it is stopped, many times as fast as over the network. */
  public void load(Path ldif) throws Exception {
    stop();
    var loading =
        new ProcessBuilder(
                "/usr/sbin/slapadd",
                "-q",
                "-f",
                folder.resolve("slapd.conf").toString(),
                "-l",
                ldif.toString())
            .redirectErrorStream(true)
            .redirectOutput(folder.resolve("slapadd.log").toFile())
            .start();
    if (loading.waitFor() != 0) {
      throw new IllegalStateException("slapadd failed; its log is in " + folder);
    }
    resume();
  }

  private static Path write(Path folder, String global, String overlays) throws IOException {
    return Files.writeString(
        folder.resolve("slapd.conf"),
        CONFIGURATION.formatted(
            folder, global, overlays, overlays.contains(LIMITS) ? "" : USUAL_LIMITS));
  }

  private static Slapd stopped(String global, String overlays) throws IOException {
    var folder =
        Files.createTempDirectory(Files.createDirectories(Path.of("target/slapd")), "db")
            .toAbsolutePath();
    var file = write(folder, global, overlays);
    var port = Ports.free();
    var securePort = Ports.free();
    return new Slapd(
        folder,
        List.of(
            "/usr/sbin/slapd",
            "-d",
            "0",
            "-f",
            file.toString(),
            "-h",
            "ldap://127.0.0.1:%d ldaps://127.0.0.1:%d".formatted(port, securePort)),
        port,
        securePort);
  }

  /** Starts it, again if it was stopped: what it held is there. */
  public void resume() throws Exception {
    process =
        Children.start(
            new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(folder.resolve("slapd.log").toFile()));
    var end = System.nanoTime() + LONGEST_START.toNanos();
    while (process.isAlive() && System.nanoTime() < end) {
      try (var _ = new Socket(InetAddress.getLoopbackAddress(), port)) {
        return;
      } catch (IOException _) {
        Thread.sleep(50);
      }
    }
    var how = process.isAlive() ? "takes no calls" : "ended with " + process.exitValue();
    process.destroy();
    throw new IllegalStateException("slapd " + how + "; its log is in " + folder);
  }

  public void stop() throws InterruptedException {
    process.destroy();
    process.waitFor();
  }

  /** Takes calls, and answers none until it is woken. */
  public void hang() throws Exception {
    signal("-STOP");
  }

  public void wake() throws Exception {
    signal("-CONT");
  }

  private void signal(String signal) throws Exception {
    new ProcessBuilder("kill", signal, Long.toString(process.pid())).start().waitFor();
  }

  public int port() {
    return port;
  }

  /** For LDAPS, if its configuration has a certificate. */
  public int securePort() {
    return securePort;
  }

  private void fill() throws Exception {
    add("dn: " + BASE, "objectClass: dcObject", "objectClass: organization", "o: S", "dc: skerrow");
    for (var unit : new String[] {"people", "groups", "services", "suspended"}) {
      add("dn: ou=" + unit + "," + BASE, "objectClass: organizationalUnit", "ou: " + unit);
    }
    for (var service : new String[] {StaffDirectory.ADMIN, READER}) {
      add(
          "dn: " + service,
          "objectClass: applicationProcess",
          "objectClass: simpleSecurityObject",
          "cn: " + service.substring(3, service.indexOf(',')),
          "userPassword: secret");
    }
    add(
        "dn: cn=watch," + StaffDirectory.GROUPS,
        "objectClass: groupOfNames",
        "cn: watch",
        "member: " + StaffDirectory.ADMIN);
    add(
        "dn: cn=crew," + StaffDirectory.GROUPS,
        "objectClass: groupOfUniqueNames",
        "cn: crew",
        "uniqueMember: " + StaffDirectory.ADMIN);
  }

  /** Adds an entry behind everybody's back. */
  public void add(String... ldif) throws Exception {
    try (var root = root()) {
      root.add(ldif);
    }
  }

  /** A connection past all limits. */
  public LDAPConnection root() throws LDAPException {
    return new LDAPConnection("127.0.0.1", port, ROOT, "secret");
  }

  public boolean canBind(String dn, String password) throws LDAPException {
    try (var connection = new LDAPConnection("127.0.0.1", port)) {
      connection.bind(dn, password);
      return true;
    } catch (LDAPException e) {
      if (e.getResultCode() == ResultCode.INVALID_CREDENTIALS) {
        return false;
      }
      throw e;
    }
  }

  @Override
  public void close() throws InterruptedException {
    stop();
  }
}
