package ebb.service.connections;

import ebb.connectors.dav.DavSettings;
import ebb.connectors.http.Lines;
import ebb.connectors.http.Network;
import ebb.connectors.ldap.LdapConnector;
import ebb.connectors.mail.MailSettings;
import ebb.connectors.seats.Seated;
import ebb.core.application.Equality;
import ebb.core.application.SeatPrice;
import ebb.core.application.Secrets;
import ebb.core.departure.Removal.Ending;
import ebb.core.problem.Problem;
import ebb.core.problem.Where;
import ebb.core.rule.Expressions;
import java.net.URI;
import java.net.URISyntaxException;
import java.security.GeneralSecurityException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Finds all problems of an application's settings, before anybody is called. */
public final class SettingsCheck {
  /** Before an attribute of people, in settings that say how an account gives it. */
  public static final String MATCH = "match.";

  /** What is done about drift. */
  public static final String DRIFT = "drift";

  /** It is put right at once, within the guard. */
  public static final String CORRECT = "correct";

  /** What becomes of accounts at the end of a departure: delete, or keep, which is suspended. */
  public static final String REMOVAL = "removal";

  /** What begins the settings that name who gets a kind of what accounts owned, by their login. */
  public static final String RECIPIENT = "recipient.";

  private static final Set<String> ENDINGS =
      Stream.of(Ending.values()).map(Ending::word).collect(Collectors.toUnmodifiableSet());

  /** Days for which an account that is to be deleted can still be restored. */
  public static final String RESTORE_DAYS = "restoreDays";

  /**
   * Days without a sign-in after which an account is dormant; it is asked only where it is said.
   */
  public static final String DORMANT_AFTER = "dormantAfter";

  /** Minutes between two readings. */
  public static final String SYNC_EVERY = "syncEvery";

  private static final Map<String, List<String>> NEEDED =
      Map.of("scim", List.of("address"), "ldap", List.of("host", "bindDn", "people"));

  private static final Set<String> EVERYWHERE =
      Set.of(
          "companion",
          "network",
          "trusted",
          "certificate",
          "patience",
          "callsAtOnce",
          "callsPerSecond",
          "ownsNothing",
          DRIFT,
          REMOVAL,
          RESTORE_DAYS,
          DORMANT_AFTER,
          SYNC_EVERY,
          Seated.SETTING);

  private static final Map<String, Set<String>> KNOWN =
      Map.of(
          "scim",
          Set.of(
              "address",
              "user",
              "tokenAddress",
              "clientId",
              "scope",
              "delete",
              "settles",
              "together"),
          "ldap",
          LdapConnector.SETTINGS);

  private final String kind;
  private final Map<String, String> settings;
  private final List<Problem> problems = new ArrayList<>();

  private SettingsCheck(String kind, Map<String, String> settings) {
    this.kind = kind;
    this.settings = settings;
  }

  /**
   * @param secrets those that are sent with the settings; null if none are
   * @return empty if they can be used
   */
  public static List<Problem> problems(
      String kind, Map<String, String> settings, Map<String, String> secrets) {
    var check = new SettingsCheck(kind, settings);
    check.all(secrets);
    return check.problems;
  }

  private void all(Map<String, String> secrets) {
    if (!NEEDED.containsKey(kind)) {
      problems.add(
          new Problem(
              "connector-unknown",
              "There is no connector of kind %s.".formatted(kind),
              "Ebb speaks scim and ldap so far.",
              "Use one of those.",
              Where.field("kind")));
      return;
    }
    NEEDED.get(kind).stream()
        .filter(name -> settings.getOrDefault(name, "").isBlank())
        .forEach(this::missing);
    settings.keySet().stream().filter(name -> !isKnown(name)).forEach(this::unknown);
    number("port", "\\d{1,5}");
    number("settles", "\\d{1,5}");
    number(SYNC_EVERY, "[1-9]\\d{0,4}");
    number(RESTORE_DAYS, "\\d{1,3}");
    number(DORMANT_AFTER, "[1-9]\\d{0,3}");
    number(MailSettings.PAST_AFTER, "[1-9]\\d{0,4}");
    number(DavSettings.PAST_AFTER, "[1-9]\\d{0,4}");
    number("patience", "\\d{1,4}");
    number("callsAtOnce", "[1-9]\\d?");
    number("callsPerSecond", "\\d{1,4}(\\.\\d{1,3})?");
    word("network", Set.of("public", "internal"));
    word(DRIFT, Set.of("wait", CORRECT));
    word(REMOVAL, ENDINGS);
    word("delete", Set.of("hard", "soft"));
    word("together", Set.of("yes", "no"));
    address("address");
    address("companion");
    address("tokenAddress");
    if (kind.equals("ldap")) {
      problems.addAll(LdapConnector.problems(settings));
    }
    equalities();
    matches();
    mail();
    owned(DavSettings.FILES);
    calendars();
    seats();
    prices();
    tls(secrets);
  }

  private void prices() {
    settings.forEach(
        (name, value) -> {
          if (name.startsWith(SeatPrice.SETTING) && SeatPrice.read(value).isEmpty()) {
            invalid(name, "A price is an amount and a currency, a seat and month: 12.50 EUR.");
          }
        });
  }

  private void seats() {
    var way = settings.getOrDefault(Seated.SETTING, "");
    var hasNames = settings.keySet().stream().anyMatch(name -> name.startsWith(Seated.NAME));
    if (way.equals("group") && !hasNames) {
      problems.add(
          new Problem(
              "seat-groups-missing",
              "It is not said which groups stand for seats.",
              "Whoever is in any other group takes no seat.",
              "Name each: seat.standard=Name of the group there.",
              Where.field(Seated.SETTING)));
    }
    if (way.equals("companion") && !settings.containsKey("companion")) {
      problems.add(
          new Problem(
              "seat-companion-missing",
              "There is no companion interface to ask about seats.",
              "seats=companion takes them from there.",
              "Set companion to where it begins, or name a group or an attribute.",
              Where.field(Seated.SETTING)));
    }
  }

  private boolean isKnown(String name) {
    return EVERYWHERE.contains(name)
        || MailSettings.ALL.contains(name)
        || DavSettings.ALL.contains(name)
        || KNOWN.get(kind).contains(name)
        || name.startsWith(Seated.NAME)
        || name.startsWith(SeatPrice.SETTING)
        || name.startsWith(MATCH)
        || name.startsWith(RECIPIENT)
        || name.startsWith("equality.");
  }

  private void missing(String name) {
    problems.add(
        new Problem(
            "setting-missing",
            "The setting %s is missing.".formatted(name),
            "The %s connector cannot connect without it.".formatted(kind),
            "Add it.",
            Where.field(name)));
  }

  private void unknown(String name) {
    problems.add(
        new Problem(
            "setting-unknown",
            "There is no setting %s for %s.".formatted(name, kind),
            "It would be kept, and do nothing.",
            "See docs/applications.md for those there are.",
            Where.field(name)));
  }

  private void invalid(String name, String why) {
    problems.add(
        new Problem(
            "setting-invalid",
            "The setting %s cannot be %s.".formatted(name, settings.get(name)),
            why,
            "Correct it.",
            Where.field(name)));
  }

  private void number(String name, String pattern) {
    if (settings.containsKey(name) && !settings.get(name).matches(pattern)) {
      invalid(name, "It is no number, or too large a one.");
    }
  }

  private void word(String name, Set<String> words) {
    if (settings.containsKey(name) && !words.contains(settings.get(name))) {
      invalid(name, "It is one of " + String.join(", ", words.stream().sorted().toList()) + ".");
    }
  }

  private void matches() {
    var expressions = new Expressions();
    settings.forEach(
        (name, expression) -> {
          if (name.startsWith(MATCH)) {
            expressions.problemOfAccount(expression, Where.field(name)).ifPresent(problems::add);
          }
        });
  }

  private void equalities() {
    settings.keySet().stream()
        .filter(name -> name.startsWith("equality."))
        .forEach(
            name -> {
              try {
                Equality.of(settings.get(name));
              } catch (IllegalArgumentException _) {
                invalid(name, "It is one of exact, ignore-case, telephone, folded.");
              }
            });
  }

  private void mail() {
    server(MailSettings.MAIL, Set.of("imap", "imaps"));
    server(MailSettings.REPLIES, Set.of("sieve"));
    word(MailSettings.SECURITY, Set.of("starttls", "none"));
    word(MailSettings.SHARE, Set.of(MailSettings.YES, MailSettings.NO));
    if (MailSettings.YES.equals(settings.get(MailSettings.SHARE))
        && !Ending.KEEP.word().equals(settings.get(REMOVAL))) {
      invalid(
          MailSettings.SHARE,
          "What is read in a mailbox is lost with it; only with removal=%s."
              .formatted(Ending.KEEP.word()));
    }
    if (MailSettings.YES.equals(settings.get(MailSettings.SHARE))
        && settings.containsKey(MailSettings.PAST_AFTER)) {
      invalid(
          MailSettings.PAST_AFTER,
          "Folders are shared whole; only without %s.".formatted(MailSettings.SHARE));
    }
    if ("none".equals(settings.get(MailSettings.SECURITY))
        && !isInternal(kind.equals("ldap") ? LdapConnector.USUAL_NETWORK : "public")) {
      invalid(
          MailSettings.SECURITY,
          "Everybody on the way could read the password; only with network=internal.");
    }
  }

  private void calendars() {
    owned(DavSettings.CALENDARS);
    word(DavSettings.CALENDARS_TELL, Set.of(DavSettings.YES, DavSettings.NO));
  }

  /** An address with the name of an owner in it. */
  private void owned(String name) {
    var text = settings.getOrDefault(name, "");
    if (text.isBlank()) {
      return;
    }
    if (text.contains(DavSettings.PLACE)) {
      address(name, text.replace(DavSettings.PLACE, "login"));
    } else {
      invalid(
          name,
          "%s stands in it for the name of an owner: https://%s.example/dav/%s/"
              .formatted(DavSettings.PLACE, name, DavSettings.PLACE));
    }
  }

  private void server(String name, Set<String> schemes) {
    var text = settings.getOrDefault(name, "");
    if (text.isBlank()) {
      return;
    }
    try {
      var uri = new URI(text);
      if (uri.getHost() == null || !schemes.contains(String.valueOf(uri.getScheme()))) {
        invalid(
            name,
            "It is written as %s://host, with a port if it is another than usual."
                .formatted(String.join("://host or ", schemes.stream().sorted().toList())));
      }
    } catch (URISyntaxException e) {
      invalid(name, e.getMessage() + ".");
    }
  }

  private void address(String name) {
    address(name, settings.getOrDefault(name, ""));
  }

  private void address(String name, String text) {
    if (text.isBlank()) {
      return;
    }
    try {
      var uri = new URI(text);
      var scheme = String.valueOf(uri.getScheme());
      if (uri.getHost() == null || !Set.of("http", "https").contains(scheme)) {
        invalid(name, "It is no address of the web.");
      } else if (scheme.equals("http") && !isInternal("public")) {
        problems.add(
            new Problem(
                "address-not-secure",
                "%s would be called without a secure line.".formatted(text),
                "Everybody on the way could read Ebb's token.",
                "Use https; or, within the own network, set network=internal.",
                Where.field(name)));
      }
    } catch (URISyntaxException e) {
      invalid(name, e.getMessage() + ".");
    }
  }

  private boolean isInternal(String usual) {
    var network = settings.getOrDefault("network", usual);
    return Network.isWord(network) && network.equalsIgnoreCase(Network.INTERNAL.name());
  }

  private void tls(Map<String, String> secrets) {
    var own = secrets == null ? Map.<String, String>of() : secrets;
    var shows = settings.containsKey("certificate") && own.containsKey(Secrets.KEY);
    if (settings.containsKey("trusted") || shows) {
      try {
        Lines.tls(shows ? settings : withoutCertificate(), SecretTexts.of(own)).context();
      } catch (GeneralSecurityException e) {
        problems.add(
            new Problem(
                "certificate-unreadable",
                "The certificates or the key cannot be used.",
                String.valueOf(e.getMessage()),
                "Give them as PEM: trusted, certificate, and the secret key in PKCS #8.",
                Where.field(settings.containsKey("trusted") ? "trusted" : "certificate")));
      }
    }
  }

  private Map<String, String> withoutCertificate() {
    return Map.of("trusted", settings.get("trusted"));
  }
}
