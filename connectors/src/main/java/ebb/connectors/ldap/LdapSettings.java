package ebb.connectors.ldap;

import com.unboundid.ldap.sdk.DN;
import com.unboundid.ldap.sdk.LDAPException;
import ebb.connectors.http.Network;
import ebb.core.problem.Problem;
import ebb.core.problem.Where;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * How one directory is reached and laid out.
 *
 * @param servers tried in this order
 * @param people where the entries of people are
 * @param groups where groups are; null if Ebb has nothing to do with them
 * @param containers the attribute that names a unit's entry, as in "ou", where people's entries
 *     stand below their units; null where they all stand in one place
 * @param naming the attribute that names a person's entry, as in "uid"
 * @param attributes the name rules use to the directory's attribute
 * @param origin where Ebb leaves its own id
 * @param givesOwners whether those who own a group are held as a group of their own
 * @param emptyGroup stands in a group that would be empty, where that must not be
 * @param lastSignIn where the directory keeps when somebody last signed in; null if it does not
 */
record LdapSettings(
    List<Server> servers,
    Security security,
    Network network,
    Duration patience,
    String bindDn,
    DN people,
    DN groups,
    String containers,
    List<String> objectClasses,
    String naming,
    Map<String, String> attributes,
    Switch usable,
    String origin,
    boolean givesOwners,
    DN emptyGroup,
    String lastSignIn) {

  /** The name rules use for the unit an entry stands below: "Fleet/Deck". */
  static final String CONTAINER = "container";

  static final Set<String> NAMES =
      Set.of(
          "host",
          "port",
          "security",
          "bindDn",
          "people",
          "groups",
          "containers",
          "objectClasses",
          "naming",
          "attributes",
          "suspend",
          "suspended",
          "switchAttribute",
          "usable",
          "unusable",
          "originAttribute",
          "owners",
          "emptyGroup",
          "lastSignIn");

  record Server(String host, int port) {}

  enum Security {
    NONE,
    STARTTLS,
    LDAPS
  }

  /** Standard names (RFC 4519, RFC 2798), which the setting "attributes" can change. */
  private static final Map<String, String> STANDARD =
      new LinkedHashMap<>(
          Map.ofEntries(
              Map.entry("userName", "uid"),
              Map.entry("name.givenName", "givenName"),
              Map.entry("name.familyName", "sn"),
              Map.entry("name.formatted", "cn"),
              Map.entry("displayName", "displayName"),
              Map.entry("title", "title"),
              Map.entry("department", "ou"),
              Map.entry("employeeNumber", "employeeNumber"),
              Map.entry("userType", "employeeType"),
              Map.entry("emails.work", "mail"),
              Map.entry("phoneNumbers.mobile", "mobile"),
              Map.entry("description", "description"),
              Map.entry("location", "l"),
              Map.entry("manager", "manager")));

  private static final Duration PATIENCE = Duration.ofSeconds(15);
  private static final String OWNERS_SHOWN = "shown";
  private static final String OWNERS_GIVEN = "given";
  private static final int PORT = 389;
  private static final int PORT_OF_LDAPS = 636;

  /**
   * @throws IllegalArgumentException if {@link #problems} would have found any
   */
  static LdapSettings of(Map<String, String> settings) {
    var security = security(settings);
    return new LdapSettings(
        servers(settings, security == Security.LDAPS ? PORT_OF_LDAPS : PORT),
        security,
        // Directories stand within, as a rule.
        Network.valueOf(
            settings.getOrDefault("network", LdapConnector.USUAL_NETWORK).toUpperCase(Locale.ROOT)),
        settings.containsKey("patience")
            ? Duration.ofSeconds(Long.parseLong(settings.get("patience")))
            : PATIENCE,
        settings.get("bindDn"),
        dn(settings, "people"),
        dn(settings, "groups"),
        settings.get("containers"),
        list(settings.getOrDefault("objectClasses", "inetOrgPerson")),
        settings.getOrDefault("naming", "uid"),
        attributes(settings),
        usable(settings),
        settings.getOrDefault("originAttribute", "employeeNumber"),
        settings.getOrDefault("owners", OWNERS_SHOWN).equals(OWNERS_GIVEN),
        dn(settings, settings.containsKey("emptyGroup") ? "emptyGroup" : "bindDn"),
        settings.get("lastSignIn"));
  }

  /** Whatever is wrong with the settings themselves; nobody is called. */
  static List<Problem> problems(Map<String, String> settings) {
    var problems = new ArrayList<Problem>();
    for (var name : List.of("bindDn", "people", "groups", "suspended", "emptyGroup")) {
      if (settings.containsKey(name) && !DN.isValidDN(settings.get(name))) {
        problems.add(
            new Problem(
                "setting-no-dn",
                "%s is no distinguished name: %s.".formatted(name, settings.get(name)),
                "An entry is called as in ou=people,dc=skerrow,dc=example (RFC 4514).",
                "Write it so; a comma, plus or quote within a name takes a backslash before it.",
                Where.field(name)));
      }
    }
    word(settings, "security", Set.of("none", "starttls", "ldaps")).ifPresent(problems::add);
    word(settings, "owners", Set.of(OWNERS_SHOWN, OWNERS_GIVEN)).ifPresent(problems::add);
    word(settings, "suspend", Set.of("attribute", "lock", "move")).ifPresent(problems::add);
    var needed =
        switch (settings.getOrDefault("suspend", "")) {
          case "attribute" -> "switchAttribute";
          case "move" -> "suspended";
          default -> null;
        };
    if (needed != null && settings.getOrDefault(needed, "").isBlank()) {
      problems.add(
          new Problem(
              "setting-missing",
              "The setting %s is missing.".formatted(needed),
              "Suspending by %s needs it.".formatted(settings.get("suspend")),
              "Give it, or choose another way of suspending.",
              Where.field(needed)));
    }
    for (var pair : list(settings.getOrDefault("attributes", ""))) {
      if (pair.indexOf('=') < 1) {
        problems.add(
            new Problem(
                "setting-no-pair",
                "attributes has a part that is no pair: %s.".formatted(pair),
                "Each says what an attribute is called there: title=personalTitle.",
                "Write it so, with commas between.",
                Where.field("attributes")));
      }
    }
    return problems;
  }

  private static Optional<Problem> word(
      Map<String, String> settings, String name, Set<String> words) {
    var given = settings.get(name);
    return given == null || words.contains(given)
        ? Optional.empty()
        : Optional.of(
            new Problem(
                "setting-unknown-word",
                "%s cannot be %s.".formatted(name, given),
                "It is one of %s.".formatted(String.join(", ", words.stream().sorted().toList())),
                "Use one of those.",
                Where.field(name)));
  }

  private static Security security(Map<String, String> settings) {
    return Security.valueOf(settings.getOrDefault("security", "none").toUpperCase(Locale.ROOT));
  }

  private static Switch usable(Map<String, String> settings) {
    var attribute = settings.get("switchAttribute");
    return switch (settings.getOrDefault("suspend", attribute == null ? "" : "attribute")) {
      case "attribute" ->
          new Switch.Flag(
              attribute,
              settings.getOrDefault("usable", "TRUE"),
              settings.getOrDefault("unusable", "FALSE"));
      case "lock" -> new Switch.Lock();
      case "move" -> new Switch.Place(dn(settings, "suspended"));
      default -> new Switch.None();
    };
  }

  private static List<Server> servers(Map<String, String> settings, int usual) {
    var port = settings.containsKey("port") ? Integer.parseInt(settings.get("port")) : usual;
    return list(settings.getOrDefault("host", "localhost")).stream()
        .map(
            host -> {
              var colon = host.indexOf(':');
              return colon < 0 || host.indexOf(':', colon + 1) > 0
                  ? new Server(host, port)
                  : new Server(
                      host.substring(0, colon), Integer.parseInt(host.substring(colon + 1)));
            })
        .toList();
  }

  private static DN dn(Map<String, String> settings, String name) {
    try {
      return settings.containsKey(name) ? new DN(settings.get(name)) : null;
    } catch (LDAPException e) {
      throw new IllegalArgumentException(name + " is no distinguished name", e);
    }
  }

  private static Map<String, String> attributes(Map<String, String> settings) {
    var all = new LinkedHashMap<>(STANDARD);
    for (var pair : list(settings.getOrDefault("attributes", ""))) {
      var at = pair.indexOf('=');
      all.put(pair.substring(0, at), pair.substring(at + 1));
    }
    return all;
  }

  private static List<String> list(String commaSeparated) {
    return Arrays.stream(commaSeparated.split(","))
        .map(String::strip)
        .filter(s -> !s.isEmpty())
        .toList();
  }

  /** The bases below which an entry of a person may be. */
  List<DN> bases() {
    return usable instanceof Switch.Place(var suspended) && !suspended.isDescendantOf(people, true)
        ? List.of(people, suspended)
        : List.of(people);
  }

  /** The bases below which something may refer to an entry of a person. */
  Set<DN> basesOfReferences() {
    var bases = new LinkedHashSet<>(bases());
    if (groups != null) {
      bases.add(groups);
    }
    return bases;
  }
}
