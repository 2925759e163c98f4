package ebb.standins;

import com.unboundid.ldap.listener.InMemoryDirectoryServer;
import com.unboundid.ldap.listener.InMemoryDirectoryServerConfig;
import com.unboundid.ldap.listener.InMemoryListenerConfig;
import com.unboundid.ldap.listener.interceptor.InMemoryInterceptedAddResult;
import com.unboundid.ldap.listener.interceptor.InMemoryInterceptedDeleteResult;
import com.unboundid.ldap.listener.interceptor.InMemoryInterceptedModifyDNResult;
import com.unboundid.ldap.listener.interceptor.InMemoryInterceptedModifyRequest;
import com.unboundid.ldap.listener.interceptor.InMemoryInterceptedModifyResult;
import com.unboundid.ldap.listener.interceptor.InMemoryInterceptedSimpleBindRequest;
import com.unboundid.ldap.listener.interceptor.InMemoryOperationInterceptor;
import com.unboundid.ldap.sdk.Filter;
import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.LDAPResult;
import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import com.unboundid.ldap.sdk.ResultCode;
import com.unboundid.ldap.sdk.SearchResultEntry;
import com.unboundid.ldap.sdk.SearchScope;
import com.unboundid.ldap.sdk.schema.Schema;
import com.unboundid.ldif.LDIFException;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.net.InetAddress;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.atomic.AtomicReference;

/**
 * The staff directory: an embedded LDAP v3 server (RFC 4511). An entry whose loginAllowed is FALSE
 * cannot bind. It keeps references in step when an entry is renamed or deleted, as well-run
 * directories do.
 */
public final class StaffDirectory implements AutoCloseable {
  public static final String BASE = "dc=skerrow,dc=example";
  public static final String PEOPLE = "ou=people," + BASE;
  public static final String GROUPS = "ou=groups," + BASE;
  public static final String ADMIN = "cn=ebb,ou=services," + BASE;

  private final InMemoryDirectoryServer server;
  private final AtomicLong writes = new AtomicLong();
  private final AtomicReference<Deed> beforeNextModify = new AtomicReference<>();

  /**
   * @param port 0 for any that is free
   * @param password of the service's own entry, {@link #ADMIN}
   */
  public StaffDirectory(int port, String password)
      throws LDAPException, LDIFException, IOException {
    var config = new InMemoryDirectoryServerConfig(BASE);
    config.addAdditionalBindCredentials(ADMIN, password);
    config.setSchema(schema());
    config.setReferentialIntegrityAttributes("manager", "member");
    config.setEqualityIndexAttributes("uid", "originKey", "manager", "member", "entryUUID");
    config.addInMemoryOperationInterceptor(new SuspendedCannotBind());
    config.addInMemoryOperationInterceptor(new CountWrites());
    config.addInMemoryOperationInterceptor(new Meanwhile());
    config.setListenerConfigs(
        InMemoryListenerConfig.createLDAPConfig(
            "ldap", InetAddress.getLoopbackAddress(), port, null));
    server = new InMemoryDirectoryServer(config);
    server.add("dn: " + BASE, "objectClass: top", "objectClass: domain", "dc: skerrow");
    server.add("dn: " + PEOPLE, "objectClass: organizationalUnit", "ou: people");
    server.add("dn: " + GROUPS, "objectClass: organizationalUnit", "ou: groups");
    addGroup("harbour-watch");
    addGroup("first-aid");
    server.startListening();
    writes.set(0);
  }

  private static Schema schema() throws IOException, LDIFException, LDAPException {
    var own = new ByteArrayInputStream(SCHEMA_LDIF.getBytes(StandardCharsets.UTF_8));
    return Schema.mergeSchemas(Schema.getDefaultStandardSchema(), Schema.getSchema(own));
  }

  private static final String SCHEMA_LDIF =
      """
      dn: cn=schema
      objectClass: top
      objectClass: subschema
      cn: schema
      attributeTypes: ( 1.3.6.1.4.1.55555.1.1 NAME 'loginAllowed' EQUALITY booleanMatch SYNTAX 1.3.6.1.4.1.1466.115.121.1.7 SINGLE-VALUE )
      attributeTypes: ( 1.3.6.1.4.1.55555.1.2 NAME 'originKey' EQUALITY caseExactMatch SYNTAX 1.3.6.1.4.1.1466.115.121.1.15 SINGLE-VALUE )
      objectClasses: ( 1.3.6.1.4.1.55555.2.1 NAME 'skerrowPerson' SUP top AUXILIARY MAY ( loginAllowed $ originKey ) )
      """;

  /**
   * Adds a group. A groupOfNames must not be empty (RFC 4519, 3.5), so the service's own entry
   * keeps the place.
   */
  public void addGroup(String name) throws LDAPException, LDIFException {
    server.add(
        "dn: cn=" + name + "," + GROUPS,
        "objectClass: groupOfNames",
        "cn: " + name,
        "member: " + ADMIN);
  }

  /** Makes a group a member of another one. */
  public void nest(String inner, String outer) throws LDAPException {
    server.modify(
        "cn=" + outer + "," + GROUPS,
        new Modification(ModificationType.ADD, "member", "cn=" + inner + "," + GROUPS));
  }

  public int port() {
    return server.getListenPort();
  }

  /** Writes carried out since the start, over the network or from here. */
  public long writes() {
    return writes.get();
  }

  public int people() throws LDAPException {
    return server
        .search(PEOPLE, SearchScope.ONE, "(objectClass=inetOrgPerson)", "1.1")
        .getEntryCount();
  }

  /** The entry of this login; null if there is none. */
  public SearchResultEntry person(String uid) throws LDAPException {
    return server.searchForEntry(PEOPLE, SearchScope.ONE, Filter.createEqualityFilter("uid", uid));
  }

  public List<String> members(String group) throws LDAPException {
    var entry = server.getEntry("cn=" + group + "," + GROUPS);
    return List.of(entry.getAttributeValues("member"));
  }

  /** Names of the entries of those who own a group. */
  public List<String> owners(String group) throws LDAPException {
    var owners = server.getEntry("cn=" + group + "," + GROUPS).getAttributeValues("owner");
    return owners == null ? List.of() : List.of(owners);
  }

  /** Whether somebody can sign in here. */
  public boolean canSignIn(String uid, String password) throws LDAPException {
    var entry = person(uid);
    try (var connection = new LDAPConnection("127.0.0.1", port())) {
      connection.bind(entry == null ? "uid=" + uid + "," + PEOPLE : entry.getDN(), password);
      return true;
    } catch (LDAPException _) {
      return false;
    }
  }

  /** Changes an entry behind everybody's back. */
  public void edit(String uid, String attribute, String value) throws LDAPException {
    server.modify(
        person(uid).getDN(), new Modification(ModificationType.REPLACE, attribute, value));
  }

  /** Adds an entry behind everybody's back. */
  public void add(String uid, String givenName, String familyName)
      throws LDAPException, LDIFException {
    server.add(
        "dn: uid=" + uid + "," + PEOPLE,
        "objectClass: inetOrgPerson",
        "uid: " + uid,
        "givenName: " + givenName,
        "sn: " + familyName,
        "cn: " + givenName + " " + familyName);
  }

  /** Something done behind everybody's back. */
  public interface Deed {
    void run() throws LDAPException;
  }

  /** Does this once, when the next change of an entry has come in and is not carried out yet. */
  public void beforeNextModify(Deed deed) {
    beforeNextModify.set(deed);
  }

  @Override
  public void close() {
    server.shutDown(true);
  }

  private final class SuspendedCannotBind extends InMemoryOperationInterceptor {
    @Override
    public void processSimpleBindRequest(InMemoryInterceptedSimpleBindRequest request)
        throws LDAPException {
      var dn = request.getRequest().getBindDN();
      var entry = dn.equals(ADMIN) ? null : server.getEntry(dn);
      if (entry != null && "FALSE".equalsIgnoreCase(entry.getAttributeValue("loginAllowed"))) {
        throw new LDAPException(ResultCode.INVALID_CREDENTIALS, "The account is suspended");
      }
    }
  }

  private final class Meanwhile extends InMemoryOperationInterceptor {
    @Override
    public void processModifyRequest(InMemoryInterceptedModifyRequest request)
        throws LDAPException {
      var deed = beforeNextModify.getAndSet(null);
      if (deed != null) {
        deed.run();
      }
    }
  }

  private final class CountWrites extends InMemoryOperationInterceptor {
    private void count(LDAPResult result) {
      if (result.getResultCode() == ResultCode.SUCCESS) {
        writes.incrementAndGet();
      }
    }

    @Override
    public void processAddResult(InMemoryInterceptedAddResult result) {
      count(result.getResult());
    }

    @Override
    public void processModifyResult(InMemoryInterceptedModifyResult result) {
      count(result.getResult());
    }

    @Override
    public void processModifyDNResult(InMemoryInterceptedModifyDNResult result) {
      count(result.getResult());
    }

    @Override
    public void processDeleteResult(InMemoryInterceptedDeleteResult result) {
      count(result.getResult());
    }
  }
}
