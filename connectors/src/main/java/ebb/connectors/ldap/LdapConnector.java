package ebb.connectors.ldap;

import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.SearchResultEntry;
import ebb.connectors.http.Lines;
import ebb.core.application.Activity;
import ebb.core.application.Capabilities;
import ebb.core.application.Connector;
import ebb.core.application.Details;
import ebb.core.application.Equality;
import ebb.core.application.Inspection;
import ebb.core.application.Inspection.Tried;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Part;
import ebb.core.application.Reading;
import ebb.core.application.References;
import ebb.core.application.Secrets;
import ebb.core.application.Sightings;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Date;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/** A connector to one directory (RFC 4510 and those after it). */
public final class LdapConnector implements Connector {
  /** Directories write one after the other anyway; more connections only wait. */
  public static final int CALLS_AT_ONCE = 2;

  /** Directories stand in the own network. */
  public static final String USUAL_NETWORK = "internal";

  /** The settings it knows, beside those every connector has. */
  public static final Set<String> SETTINGS = LdapSettings.NAMES;

  private final LdapSettings settings;
  private final LdapOutcomes outcomes;
  private final Directory directory;
  private final Entries entries;
  private final LdapGroups groups;
  private final LdapWrites writes;
  private volatile Capabilities capabilities;

  private LdapConnector(LdapSettings settings, LdapOutcomes outcomes, Directory directory) {
    this.settings = settings;
    this.outcomes = outcomes;
    this.directory = directory;
    this.entries = new Entries(directory);
    this.groups = new LdapGroups(directory);
    this.writes = new LdapWrites(directory, entries, groups, outcomes);
  }

  /**
   * @param texts {@link #SETTINGS}, in which there are no {@link #problems}
   * @param secrets the password of bindDn as "token"; a private key as "key"
   * @param callsAtOnce at most as many; searches take others beside
   */
  public static LdapConnector open(
      String application, Map<String, String> texts, Secrets secrets, int callsAtOnce) {
    var settings = LdapSettings.of(texts);
    var outcomes = new LdapOutcomes(application, texts.getOrDefault("host", ""));
    return new LdapConnector(
        settings,
        outcomes,
        new Directory(
            settings,
            secrets.get(Secrets.TOKEN),
            Lines.tls(texts, secrets),
            callsAtOnce * 2,
            outcomes));
  }

  /** Whatever is wrong with settings themselves; nobody is called. */
  public static List<Problem> problems(Map<String, String> settings) {
    return LdapSettings.problems(settings);
  }

  @Override
  public Capabilities capabilities() throws Unreachable {
    if (capabilities == null) {
      capabilities = capabilities(directory.features());
    }
    return capabilities;
  }

  private Capabilities capabilities(LdapFeatures features) {
    var writable = new TreeSet<String>();
    var required = new TreeSet<>(Set.of("userName"));
    var equalities = new HashMap<String, Equality>();
    settings
        .attributes()
        .forEach(
            (name, attribute) -> {
              if (features.isWritable(attribute, settings.objectClasses())) {
                writable.add(name);
                equalities.put(name, features.equality(attribute));
              }
              if (features.isRequired(attribute, settings.objectClasses())) {
                required.add(name);
              }
            });
    if (settings.containers() != null) {
      writable.add(LdapSettings.CONTAINER);
      equalities.put(LdapSettings.CONTAINER, features.equality(settings.containers()));
    }
    return new Capabilities(
        writable, required, equalities, parts(features), Directory.PAGE, Duration.ZERO);
  }

  private Set<Part> parts(LdapFeatures features) {
    var parts = EnumSet.of(Part.REFERENCES);
    if (features.setsPasswords()) {
      parts.add(Part.PASSWORDS);
    }
    if (groups.areKept()) {
      parts.add(Part.GROUPS);
    }
    if (settings.lastSignIn() != null) {
      parts.add(Part.ACTIVITY);
    }
    return parts;
  }

  @Override
  public Inspection inspect() throws Unreachable {
    var features = directory.look();
    var able = capabilities(features);
    var rehearsed = new LdapRehearsal(directory, entries).of(features, able.writable());
    var now = able.denying(rehearsed.denied());
    capabilities = now;
    var tried = new ArrayList<Tried>();
    for (var base : settings.bases()) {
      tried.add(base("list accounts", base.toString(), "accounts there are not found, nor seen"));
    }
    if (groups.areKept()) {
      tried.add(base("list groups", settings.groups().toString(), Part.GROUPS.without()));
    }
    tried.addAll(rehearsed.tried());
    tried.add(
        finding(
            "find again what it made",
            named(features, "originAttribute", settings.origin()),
            "after a lost answer an account may be made twice"));
    for (var name : features.unknown(settings.objectClasses())) {
      tried.add(
          finding(
              "make accounts",
              Optional.of(outcomes.unknownName("objectClasses", name)),
              "no account can be made"));
    }
    tried.add(
        finding("suspend accounts", noSwitch(features), "whoever leaves can still sign in there"));
    tried.add(
        finding(
            "write without being read on the way",
            notEncrypted(),
            "passwords and names can be read by whoever listens"));
    return new Inspection(now, tried, null);
  }

  private Tried base(String what, String base, String without) {
    try {
      return finding(
          what,
          directory.entry(base, "1.1").isPresent()
              ? Optional.empty()
              : Optional.of(outcomes.noBase(base)),
          without);
    } catch (Unreachable e) {
      return new Tried(what, e.problem(), without);
    }
  }

  private static Tried finding(String what, Optional<Problem> problem, String without) {
    return problem.map(one -> new Tried(what, one, without)).orElse(Tried.works(what));
  }

  private Optional<Problem> noSwitch(LdapFeatures features) {
    return switch (settings.usable()) {
      case Switch.None() -> Optional.of(outcomes.noSwitch());
      case Switch.Flag flag -> named(features, "switchAttribute", flag.attribute());
      case Switch.Lock() -> named(features, "suspend", Switch.LOCKED);
      case Switch.Place _ -> Optional.empty();
    };
  }

  private Optional<Problem> named(LdapFeatures features, String setting, String attribute) {
    return features.knows(attribute)
        ? Optional.empty()
        : Optional.of(outcomes.unknownName(setting, attribute));
  }

  private Optional<Problem> notEncrypted() {
    return settings.security() != LdapSettings.Security.NONE || isOnThisMachine()
        ? Optional.empty()
        : Optional.of(outcomes.notEncrypted());
  }

  private boolean isOnThisMachine() {
    try {
      return InetAddress.getByName(settings.servers().getFirst().host()).isLoopbackAddress();
    } catch (UnknownHostException _) {
      return false;
    }
  }

  @Override
  public Reading read(String since, Sightings to) throws Unreachable {
    return new LdapReading(directory, entries, groups, to).read(since);
  }

  @Override
  public Optional<Details> details(String accountId) throws Unreachable {
    return entries.byId(accountId, "*", "+").map(LdapConnector::details);
  }

  private static Details details(Entry entry) {
    var values = new TreeMap<String, List<String>>();
    for (var attribute : entry.getAttributes()) {
      if (!attribute.getBaseName().equalsIgnoreCase("userPassword")) {
        values.put(attribute.getName(), List.of(attribute.getValues()));
      }
    }
    var at = entry.getAttributeValueAsDate(Entries.CHANGED_AT);
    return new Details(
        values, at == null ? null : at.toInstant(), entry.getAttributeValue(Entries.CHANGED_BY));
  }

  @Override
  public Optional<ObservedAccount> find(String accountId) throws Unreachable {
    return observed(entries.byId(accountId));
  }

  @Override
  public Optional<ObservedAccount> findByExternalId(String externalId) throws Unreachable {
    return observed(entries.byOrigin(externalId));
  }

  private Optional<ObservedAccount> observed(Optional<SearchResultEntry> found) throws Unreachable {
    return found.isEmpty()
        ? Optional.empty()
        : Optional.of(entries.observed(found.get(), groups.of(found.get().getDN())));
  }

  @Override
  public Outcome apply(Instruction instruction) {
    try {
      return switch (instruction) {
        case Instruction.Create create -> writes.create(create);
        case Instruction.Update update -> writes.update(update);
        case Instruction.SetUsable(var id, var usable) -> writes.setUsable(id, usable);
        case Instruction.Join(var id, var group) -> writes.join(id, group);
        case Instruction.Leave(var id, var group) -> writes.leave(id, group);
        case Instruction.SetPassword(var id, var password) -> writes.setPassword(id, password);
        case Instruction.Delete(var id) -> writes.delete(id);
        case Instruction.TakeSeat _, Instruction.FreeSeat _ ->
            throw new IllegalStateException("What stands for a seat is another's to know");
      };
    } catch (LDAPException e) {
      return outcomes.of(e);
    } catch (Unreachable e) {
      return new Outcome.RetryLater(null, e.problem());
    }
  }

  @Override
  public Optional<References> references() {
    return Optional.of(new LdapReferences(directory, entries));
  }

  @Override
  public Optional<Activity> activity() {
    return Optional.ofNullable(settings.lastSignIn())
        .map(attribute -> id -> lastSignIn(id, attribute));
  }

  private Optional<Activity.Use> lastSignIn(String id, String attribute) throws Unreachable {
    return entries
        .byId(id, attribute)
        .map(entry -> Optional.ofNullable(entry.getAttributeValueAsDate(attribute)))
        .map(at -> new Activity.Use(at.map(Date::toInstant).orElse(null), null));
  }

  @Override
  public void close() {
    directory.close();
  }
}
