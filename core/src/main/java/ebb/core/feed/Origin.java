package ebb.core.feed;

import ebb.core.problem.Problem;
import ebb.core.problem.Where;
import java.net.URI;
import java.net.URISyntaxException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;

/**
 * Where deliveries come from.
 *
 * @param settings what connecting needs, by name; no secrets
 */
public record Origin(Kind kind, SortedMap<String, String> settings) {
  /** A watched folder: its absolute path. */
  public static final String PATH = "path";

  /** Which names of files are taken, as in *.csv; all if left out. */
  public static final String NAMES = "names";

  public static final String ADDRESS = "address";

  /** Sent as the user of HTTP Basic (RFC 7617); without it the secret is a bearer token. */
  public static final String USER = "user";

  public static final String HOST = "host";
  public static final String PORT = "port";

  /** The print of the server's key, as in SHA256:…; nothing is read until it is given. */
  public static final String HOST_KEY = "hostKey";

  /** The application in which the groups are that are pushed; without it none are taken. */
  public static final String GROUPS_IN = "groupsIn";

  /** How deliveries reach us. */
  public enum Kind {
    FOLDER(Set.of(PATH), Set.of(NAMES)),
    HTTP(Set.of(ADDRESS), Set.of(USER)),
    SFTP(Set.of(HOST, USER, PATH), Set.of(PORT, HOST_KEY, NAMES)),
    /** Sent to us over SCIM, as it changes (RFC 7644). */
    PUSH(Set.of(), Set.of(GROUPS_IN));

    private final Set<String> needed;
    private final Set<String> possible;

    Kind(Set<String> needed, Set<String> possible) {
      this.needed = needed;
      this.possible = possible;
    }

    /** Whether there is always something to be had, rather than only when a delivery came. */
    public boolean isPulled() {
      return this != FOLDER;
    }

    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  public Origin {
    settings = new TreeMap<>(settings == null ? Map.of() : settings);
  }

  /** Empty if there is none of that name, or it is blank. */
  public String setting(String name) {
    return settings.getOrDefault(name, "").strip();
  }

  /** All problems of its settings; empty if they can be used. */
  public List<Problem> problems() {
    var problems = new ArrayList<Problem>();
    kind.needed.stream()
        .sorted()
        .filter(name -> setting(name).isEmpty())
        .forEach(name -> problems.add(missing(name)));
    settings.keySet().stream()
        .filter(name -> !kind.needed.contains(name) && !kind.possible.contains(name))
        .forEach(name -> problems.add(unknown(name)));
    var port = setting(PORT);
    if (!port.isEmpty() && !port.matches("\\d{1,5}")) {
      problems.add(invalid(PORT, port, "A port is a number up to 65535."));
    }
    var path = setting(PATH);
    if (kind == Kind.FOLDER && !path.isEmpty() && !path.startsWith("/")) {
      problems.add(invalid(PATH, path, "It depends on where the service was started."));
    }
    var address = setting(ADDRESS);
    if (!address.isEmpty() && !isWeb(address)) {
      problems.add(invalid(ADDRESS, address, "Only http and https addresses can be read."));
    }
    return problems;
  }

  private static boolean isWeb(String address) {
    try {
      var uri = new URI(address);
      return uri.getHost() != null
          && ("http".equals(uri.getScheme()) || "https".equals(uri.getScheme()));
    } catch (URISyntaxException _) {
      return false;
    }
  }

  private Problem missing(String name) {
    return new Problem(
        "setting-missing",
        "The setting %s is missing.".formatted(name),
        "Deliveries by %s cannot be found without it.".formatted(kind.word()),
        "Add it.",
        Where.field(name));
  }

  private Problem unknown(String name) {
    return new Problem(
        "setting-unknown",
        "Deliveries by %s have no setting %s.".formatted(kind.word(), name),
        "It would do nothing.",
        "Leave it out; there are %s.".formatted(String.join(", ", new TreeMap<>(all()).keySet())),
        Where.field(name));
  }

  private Map<String, Boolean> all() {
    var all = new TreeMap<String, Boolean>();
    kind.needed.forEach(name -> all.put(name, true));
    kind.possible.forEach(name -> all.put(name, false));
    return all;
  }

  private static Problem invalid(String name, String value, String why) {
    return new Problem(
        "setting-invalid",
        "%s is no %s.".formatted(value, name),
        why,
        "Correct it.",
        Where.field(name));
  }
}
