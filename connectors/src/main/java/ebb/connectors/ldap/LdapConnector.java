package ebb.connectors.ldap;

import com.unboundid.asn1.ASN1OctetString;
import com.unboundid.ldap.sdk.AddRequest;
import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.DN;
import com.unboundid.ldap.sdk.DeleteRequest;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.Filter;
import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPConnectionOptions;
import com.unboundid.ldap.sdk.LDAPConnectionPool;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import com.unboundid.ldap.sdk.ModifyDNRequest;
import com.unboundid.ldap.sdk.ModifyRequest;
import com.unboundid.ldap.sdk.RDN;
import com.unboundid.ldap.sdk.ResultCode;
import com.unboundid.ldap.sdk.SearchRequest;
import com.unboundid.ldap.sdk.SearchResultEntry;
import com.unboundid.ldap.sdk.SearchScope;
import com.unboundid.ldap.sdk.SimpleBindRequest;
import com.unboundid.ldap.sdk.SingleServerSet;
import com.unboundid.ldap.sdk.controls.SimplePagedResultsControl;
import com.unboundid.ldap.sdk.extensions.PasswordModifyExtendedRequest;
import com.unboundid.ldap.sdk.schema.Schema;
import ebb.core.application.Capabilities;
import ebb.core.application.Connector;
import ebb.core.application.Equality;
import ebb.core.application.Inspection;
import ebb.core.application.Inspection.Finding;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Part;
import ebb.core.application.References;
import ebb.core.application.Secret;
import ebb.core.application.Unreachable;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;

/**
 * A connector to one directory. Accounts are known by entryUUID (RFC 4530), which outlives a
 * rename; distinguished names are looked up when they are needed.
 */
public final class LdapConnector implements Connector {
  /** Directories write one after the other anyway; more connections only wait. */
  public static final int CALLS_AT_ONCE = 2;

  private static final int PAGE = 500;
  private static final int CONNECT_MILLIS = 3_000;
  private static final long ANSWER_MILLIS = 15_000;

  private final LdapSettings settings;
  private final LdapOutcomes outcomes;
  private final LDAPConnectionPool pool;
  private volatile Capabilities capabilities;

  private LdapConnector(String application, LdapSettings settings, Secret password) {
    this.settings = settings;
    this.outcomes = new LdapOutcomes(application);
    var options = new LDAPConnectionOptions();
    options.setConnectTimeoutMillis(CONNECT_MILLIS);
    options.setResponseTimeoutMillis(ANSWER_MILLIS);
    options.setUseSynchronousMode(true);
    var server = new SingleServerSet(settings.host(), settings.port(), options);
    try {
      // No connection at the start: a directory that is down must not stop Ebb from starting.
      pool =
          new LDAPConnectionPool(
              server,
              new SimpleBindRequest(settings.bindDn(), password.reveal()),
              0,
              CALLS_AT_ONCE * 2);
    } catch (LDAPException e) {
      throw new IllegalStateException("A pool of no connections cannot fail to open", e);
    }
    pool.setRetryFailedOperationsDueToInvalidConnections(false);
  }

  /**
   * @param settings host, port, bindDn, people, groups, objectClasses, naming, attributes,
   *     switchAttribute, usable, unusable, originAttribute
   * @param password of bindDn
   */
  public static LdapConnector open(
      String application, Map<String, String> settings, Secret password) {
    return new LdapConnector(application, LdapSettings.of(settings), password);
  }

  @Override
  public Capabilities capabilities() throws Unreachable {
    if (capabilities == null) {
      capabilities = look();
    }
    return capabilities;
  }

  private Capabilities look() throws Unreachable {
    var parts = EnumSet.of(Part.PASSWORDS, Part.REFERENCES);
    if (settings.groups() != null) {
      parts.add(Part.GROUPS);
    }
    return new Capabilities(
        settings.attributes().keySet(),
        Set.of("userName", "name.familyName"),
        equalities(),
        parts,
        PAGE,
        Duration.ZERO);
  }

  @Override
  public Inspection inspect() throws Unreachable {
    var now = look();
    capabilities = now;
    var findings = new ArrayList<Finding>();
    findings.add(
        finding("list accounts", settings.people(), "accounts there are not found, nor seen"));
    if (settings.groups() != null) {
      findings.add(finding("list groups", settings.groups(), Part.GROUPS.without()));
    }
    return new Inspection(now, findings, null);
  }

  private Finding finding(String what, String base, String without) {
    try {
      return reading(connection -> Optional.ofNullable(connection.getEntry(base, "1.1")))
              .isPresent()
          ? Finding.works(what)
          : new Finding(what, outcomes.noBase(base), without);
    } catch (Unreachable e) {
      return new Finding(what, e.problem(), without);
    }
  }

  /** Equality as the directory's own matching rules have it (RFC 4517, 4.2). */
  private Map<String, Equality> equalities() throws Unreachable {
    var schema = reading(LDAPConnection::getSchema).orElse(null);
    var equalities = new HashMap<String, Equality>();
    settings
        .attributes()
        .forEach((name, attribute) -> equalities.put(name, equality(schema, attribute)));
    return equalities;
  }

  private static Equality equality(Schema schema, String attribute) {
    var type = schema == null ? null : schema.getAttributeType(attribute);
    var rule = type == null ? null : type.getEqualityMatchingRule(schema);
    return switch (rule == null ? "" : rule.toLowerCase(Locale.ROOT)) {
      case "caseignorematch", "caseignoreia5match", "caseignorelistmatch" ->
          Equality.IGNORE_CASE_AND_SPACE;
      case "telephonenumbermatch" -> Equality.TELEPHONE;
      default -> Equality.EXACT;
    };
  }

  @Override
  public void readAll(Consumer<ObservedAccount> each) throws Unreachable {
    var groups = memberships();
    var ids = new HashMap<String, String>();
    // Two passes: what an entry refers to may come after it.
    pages(
        "entryUUID", entry -> ids.put(normal(entry.getDN()), entry.getAttributeValue("entryUUID")));
    pages(
        null,
        entry ->
            each.accept(
                observed(
                    entry, groups.getOrDefault(normal(entry.getDN()), new TreeSet<>()), ids::get)));
  }

  private void pages(String only, Consumer<SearchResultEntry> each) throws Unreachable {
    var names = only == null ? settings.read() : new String[] {only};
    reading(
        connection -> {
          ASN1OctetString cookie = null;
          do {
            var request = new SearchRequest(settings.people(), SearchScope.SUB, person(), names);
            request.addControl(new SimplePagedResultsControl(PAGE, cookie, true));
            var result = connection.search(request);
            result.getSearchEntries().forEach(each);
            var response = SimplePagedResultsControl.get(result);
            cookie =
                response == null || !response.moreResultsToReturn() ? null : response.getCookie();
          } while (cookie != null);
          return null;
        });
  }

  private Filter person() {
    return Filter.createEqualityFilter("objectClass", settings.objectClasses().getFirst());
  }

  /** Normalised name of an entry to the groups it is in. */
  private Map<String, TreeSet<String>> memberships() throws Unreachable {
    var memberships = new HashMap<String, TreeSet<String>>();
    if (settings.groups() != null) {
      for (var group :
          search(settings.groups(), Filter.createPresenceFilter("member"), "cn", "member")) {
        for (var member : group.getAttributeValues("member")) {
          memberships
              .computeIfAbsent(normal(member), _ -> new TreeSet<>())
              .add(group.getAttributeValue("cn"));
        }
      }
    }
    return memberships;
  }

  @Override
  public Optional<ObservedAccount> find(String accountId) throws Unreachable {
    return findBy(Filter.createEqualityFilter("entryUUID", accountId));
  }

  @Override
  public Optional<ObservedAccount> findByExternalId(String externalId) throws Unreachable {
    return findBy(Filter.createEqualityFilter(settings.originAttribute(), externalId));
  }

  private Optional<ObservedAccount> findBy(Filter filter) throws Unreachable {
    var found =
        search(settings.people(), Filter.createANDFilter(person(), filter), settings.read());
    return found.isEmpty() ? Optional.empty() : Optional.of(observed(found.getFirst()));
  }

  private ObservedAccount observed(SearchResultEntry entry) throws Unreachable {
    var groups = new TreeSet<String>();
    if (settings.groups() != null) {
      search(settings.groups(), Filter.createEqualityFilter("member", entry.getDN()), "cn")
          .forEach(group -> groups.add(group.getAttributeValue("cn")));
    }
    var ids = new HashMap<String, String>();
    for (var reference : references(entry)) {
      reading(connection -> connection.getEntry(reference, "entryUUID"))
          .map(there -> ids.put(normal(reference), there.getAttributeValue("entryUUID")));
    }
    return observed(entry, groups, ids::get);
  }

  private List<String> references(Entry entry) {
    return settings.attributes().entrySet().stream()
        .filter(mapped -> LdapSettings.isReference(mapped.getKey()))
        .flatMap(
            mapped ->
                Optional.ofNullable(entry.getAttributeValues(mapped.getValue())).stream()
                    .flatMap(Arrays::stream))
        .toList();
  }

  private ObservedAccount observed(
      Entry entry, TreeSet<String> groups, UnaryOperator<String> idOf) {
    var values = new TreeMap<String, List<String>>();
    settings
        .attributes()
        .forEach(
            (name, attribute) -> {
              var texts = entry.getAttributeValues(attribute);
              if (texts != null) {
                values.put(
                    name,
                    Arrays.stream(texts)
                        .map(text -> LdapSettings.isReference(name) ? id(text, idOf) : text)
                        .toList());
              }
            });
    return new ObservedAccount(
        entry.getAttributeValue("entryUUID"),
        entry.getAttributeValue(settings.originAttribute()),
        !isSwitchedOff(entry),
        values,
        groups);
  }

  /** A reference that leads nowhere stays readable as the name it is. */
  private static String id(String dn, UnaryOperator<String> idOf) {
    var id = idOf.apply(normal(dn));
    return id == null ? dn : id;
  }

  private boolean isSwitchedOff(Entry entry) {
    return settings.switchAttribute() != null
        && settings
            .unusable()
            .equalsIgnoreCase(entry.getAttributeValue(settings.switchAttribute()));
  }

  @Override
  public Outcome apply(Instruction instruction) {
    try {
      return switch (instruction) {
        case Instruction.Create create -> create(create);
        case Instruction.Update(var id, var values) -> update(id, values);
        case Instruction.SetUsable(var id, var usable) -> {
          modify(
              dn(id),
              new Modification(
                  ModificationType.REPLACE,
                  settings.switchAttribute(),
                  usable ? settings.usable() : settings.unusable()));
          yield readBack(id);
        }
        case Instruction.Join(var id, var group) -> membership(id, group, ModificationType.ADD);
        case Instruction.Leave(var id, var group) -> membership(id, group, ModificationType.DELETE);
        case Instruction.SetPassword(var id, var password) -> setPassword(id, password);
        case Instruction.Delete(var id) -> delete(id);
        case Instruction.TakeSeat _, Instruction.FreeSeat _ ->
            throw new IllegalStateException("What stands for a seat is another's to know");
      };
    } catch (LDAPException e) {
      return outcomes.of(e);
    } catch (Unreachable e) {
      return new Outcome.RetryLater(null, e.problem());
    }
  }

  private Outcome create(Instruction.Create create) throws LDAPException, Unreachable {
    var name = create.values().getOrDefault("userName", List.of()).getFirst();
    var entry = new Entry(new DN(new RDN(settings.naming(), name), new DN(settings.people())));
    entry.addAttribute("objectClass", settings.objectClasses());
    for (var value : create.values().entrySet()) {
      entry.addAttribute(attribute(value.getKey(), value.getValue()));
    }
    entry.addAttribute(settings.originAttribute(), create.externalId());
    if (settings.switchAttribute() != null) {
      entry.addAttribute(
          settings.switchAttribute(), create.usable() ? settings.usable() : settings.unusable());
    }
    try {
      LdapWire.noting(() -> new AddRequest(entry).toLDIFString(), () -> pool.add(entry));
    } catch (LDAPException e) {
      if (e.getResultCode() != ResultCode.ENTRY_ALREADY_EXISTS) {
        throw e;
      }
      return findByExternalId(create.externalId())
          .<Outcome>map(account -> new Outcome.AlreadyInPlace(Optional.of(account)))
          .orElseGet(() -> outcomes.of(e));
    }
    return findByExternalId(create.externalId())
        .<Outcome>map(account -> new Outcome.Applied(Optional.of(account)))
        .orElseGet(() -> new Outcome.Unknown(outcomes.problem(noSuchEntry(create.externalId()))));
  }

  private Attribute attribute(String name, List<String> texts) throws LDAPException {
    var values = new ArrayList<String>();
    for (var text : texts) {
      values.add(LdapSettings.isReference(name) ? dn(text) : text);
    }
    return new Attribute(settings.attributes().get(name), values);
  }

  private Outcome update(String id, SortedMap<String, List<String>> values) throws LDAPException {
    var dn = rename(dn(id), values);
    var modifications = new ArrayList<Modification>();
    for (var value : values.entrySet()) {
      var attribute = attribute(value.getKey(), value.getValue());
      if (!attribute.getName().equalsIgnoreCase(settings.naming())) {
        modifications.add(
            new Modification(
                ModificationType.REPLACE, attribute.getName(), attribute.getRawValues()));
      }
    }
    if (!modifications.isEmpty()) {
      modify(dn, modifications.toArray(Modification[]::new));
    }
    return readBack(id);
  }

  private String rename(String dn, SortedMap<String, List<String>> values) throws LDAPException {
    var renamed =
        values.entrySet().stream()
            .filter(
                value ->
                    settings.naming().equalsIgnoreCase(settings.attributes().get(value.getKey())))
            .map(value -> value.getValue().getFirst())
            .findFirst();
    if (renamed.isEmpty()) {
      return dn;
    }
    var rdn = new RDN(settings.naming(), renamed.get());
    if (!rdn.equals(new DN(dn).getRDN())) {
      LdapWire.noting(
          () -> new ModifyDNRequest(dn, rdn.toString(), true).toLDIFString(),
          () -> pool.modifyDN(dn, rdn.toString(), true));
    }
    return new DN(rdn, new DN(dn).getParent()).toString();
  }

  private Outcome membership(String id, String group, ModificationType type) throws LDAPException {
    var groupDn = new DN(new RDN("cn", group), new DN(settings.groups())).toString();
    try {
      modify(groupDn, new Modification(type, "member", dn(id)));
    } catch (LDAPException e) {
      // Said of a membership that is there already, or already not.
      if (e.getResultCode() != ResultCode.ATTRIBUTE_OR_VALUE_EXISTS
          && e.getResultCode() != ResultCode.NO_SUCH_ATTRIBUTE) {
        throw e;
      }
    }
    return readBack(id);
  }

  private Outcome setPassword(String id, Secret password) throws LDAPException {
    var dn = dn(id);
    var request = new PasswordModifyExtendedRequest(dn, null, password.reveal());
    LdapWire.noting(
        () -> "dn: %s\n# password modify (RFC 3062), (secret)".formatted(dn),
        () -> {
          var result = pool.processExtendedOperation(request);
          if (result.getResultCode() != ResultCode.SUCCESS) {
            throw new LDAPException(result);
          }
        });
    return new Outcome.Accepted();
  }

  private Outcome delete(String id) throws LDAPException {
    var found = entry(id);
    if (found.isEmpty()) {
      return new Outcome.AlreadyInPlace(Optional.empty());
    }
    leaveAllGroups(found.get().getDN());
    var gone = found.get().getDN();
    LdapWire.noting(() -> new DeleteRequest(gone).toLDIFString(), () -> pool.delete(gone));
    return entry(id).isEmpty()
        ? new Outcome.Applied(Optional.empty())
        : new Outcome.Unknown(outcomes.problem(noSuchEntry(id)));
  }

  /** Not every directory keeps references in step when an entry goes. */
  private void leaveAllGroups(String dn) throws LDAPException {
    if (settings.groups() == null) {
      return;
    }
    var groups =
        pool.search(
            settings.groups(), SearchScope.SUB, Filter.createEqualityFilter("member", dn), "1.1");
    for (var group : groups.getSearchEntries()) {
      modify(group.getDN(), new Modification(ModificationType.DELETE, "member", dn));
    }
  }

  private void modify(String dn, Modification... modifications) throws LDAPException {
    var request = new ModifyRequest(dn, modifications);
    LdapWire.noting(request::toLDIFString, () -> pool.modify(request));
  }

  private Outcome readBack(String id) {
    try {
      return find(id)
          .<Outcome>map(account -> new Outcome.Applied(Optional.of(account)))
          .orElseGet(() -> new Outcome.Unknown(outcomes.problem(noSuchEntry(id))));
    } catch (Unreachable e) {
      return new Outcome.Unknown(e.problem());
    }
  }

  private String dn(String id) throws LDAPException {
    return entry(id).map(Entry::getDN).orElseThrow(() -> noSuchEntry(id));
  }

  private Optional<SearchResultEntry> entry(String id) throws LDAPException {
    var filter = Filter.createANDFilter(person(), Filter.createEqualityFilter("entryUUID", id));
    return Optional.ofNullable(
        pool.searchForEntry(settings.people(), SearchScope.SUB, filter, "1.1"));
  }

  private static LDAPException noSuchEntry(String id) {
    return new LDAPException(ResultCode.NO_SUCH_OBJECT, "There is no entry with the id " + id);
  }

  @Override
  public Optional<References> references() {
    return Optional.of(this::referencesTo);
  }

  private List<References.Reference> referencesTo(String accountId) throws Unreachable {
    var found =
        search(settings.people(), Filter.createEqualityFilter("entryUUID", accountId), "1.1");
    if (found.isEmpty()) {
      return List.of();
    }
    var manager = settings.attributes().get("manager");
    return search(
            settings.people(),
            Filter.createEqualityFilter(manager, found.getFirst().getDN()),
            settings.read())
        .stream()
        .filter(entry -> !isSwitchedOff(entry))
        .map(
            entry ->
                new References.Reference("manager", "manager of " + entry.getAttributeValue("cn")))
        .toList();
  }

  private List<SearchResultEntry> search(String base, Filter filter, String... attributes)
      throws Unreachable {
    return reading(connection -> connection.search(base, SearchScope.SUB, filter, attributes))
        .map(result -> result.getSearchEntries())
        .orElse(List.of());
  }

  private interface Reading<T> {
    T from(LDAPConnection connection) throws LDAPException;
  }

  /** Reads on one connection. A search on an absent entry finds nothing. */
  private <T> Optional<T> reading(Reading<T> reading) throws Unreachable {
    LDAPConnection connection = null;
    try {
      connection = pool.getConnection();
      var result = reading.from(connection);
      pool.releaseConnection(connection);
      return Optional.ofNullable(result);
    } catch (LDAPException e) {
      if (connection != null) {
        pool.releaseConnectionAfterException(connection, e);
      }
      if (e.getResultCode() == ResultCode.NO_SUCH_OBJECT) {
        return Optional.empty();
      }
      throw new Unreachable(outcomes.problem(e), e);
    }
  }

  private static String normal(String dn) {
    try {
      return DN.normalize(dn);
    } catch (LDAPException _) {
      return dn.toLowerCase(Locale.ROOT);
    }
  }

  @Override
  public void close() {
    pool.close();
  }
}
