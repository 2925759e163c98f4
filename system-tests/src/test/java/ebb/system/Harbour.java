package ebb.system;

import com.unboundid.ldap.sdk.Filter;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import com.unboundid.ldap.sdk.SearchResultEntry;
import com.unboundid.ldap.sdk.SearchScope;
import ebb.demo.Client;
import ebb.standins.Slapd;
import ebb.standins.StaffDirectory;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** A real directory of Debian's that is an application of a service; it can be edited unseen. */
final class Harbour implements AutoCloseable {
  static final String NAME = "harbour";

  private static final String RULE =
      """
      {"application": "harbour", "condition": "person.userType == 'employee'", "leadDays": 14,
       "values": {"userName": "login", "name.givenName": "person.name.givenName",
         "name.familyName": "person.name.familyName", "name.formatted": "person.displayName",
         "title": "person.title", "emails.work": "login + '@skerrow.example'"},
       "groups": ["watch"]}
      """;

  private final Slapd slapd;
  private final Client client;
  private final Path folder;

  /** Connects an empty one that says what changed, with a rule that fills it. */
  Harbour(Client client) throws Exception {
    this.client = client;
    slapd =
        Slapd.start(
            "moduleload syncprov",
            Slapd.NO_LIMITS + "\noverlay syncprov\nsyncprov-sessionlog 1000");
    folder = Files.createTempDirectory("ebb-harbour");
    connect();
    client.done(
        "rules",
        "put",
        "harbour-for-all",
        Files.writeString(folder.resolve("rule.json"), RULE).toString(),
        "--release");
  }

  Slapd slapd() {
    return slapd;
  }

  Path folder() {
    return folder;
  }

  /** Connects it anew, with more settings. */
  void connect(String... more) throws Exception {
    var secret = Files.writeString(folder.resolve("secret"), "secret");
    var arguments =
        new ArrayList<>(
            List.of(
                "applications",
                "connect",
                NAME,
                "--kind=ldap",
                "--set=host=127.0.0.1",
                "--set=port=" + slapd.port(),
                "--set=bindDn=" + StaffDirectory.ADMIN,
                "--set=people=" + StaffDirectory.PEOPLE,
                "--set=groups=" + StaffDirectory.GROUPS,
                "--set=objectClasses=inetOrgPerson,skerrowPerson",
                "--set=switchAttribute=loginAllowed",
                "--set=originAttribute=originKey",
                "--secret-file=" + secret));
    arguments.addAll(List.of(more));
    client.done(arguments.toArray(String[]::new));
  }

  /** Brings newcomers of a round into Ebb, whom the rule gives accounts here. */
  void bring(int round, int people) throws Exception {
    var file = Newcomers.file(folder, round, people);
    var made = client.json("imports", "add", file.toString(), "--source=hr");
    client.done("changes", "release", made.path("changeSet").asString(), "--reason=a trial");
    client.settle();
  }

  int people() throws Exception {
    try (var root = slapd.root()) {
      return root.search(StaffDirectory.PEOPLE, SearchScope.ONE, "(objectClass=inetOrgPerson)")
          .getEntryCount();
    }
  }

  /** The entry of a newcomer of the first round; null if there is none. */
  SearchResultEntry entry(int i) throws LDAPException {
    return entryOf(Newcomers.login(1, i));
  }

  /** By the name they sign in with; null if there is none. */
  SearchResultEntry entryOf(String login) throws LDAPException {
    try (var root = slapd.root()) {
      return root.searchForEntry(
          Slapd.BASE, SearchScope.SUB, Filter.createEqualityFilter("uid", login), "*", "+");
    }
  }

  /** Changes with every write. */
  String csn(int i) throws LDAPException {
    return entry(i).getAttributeValue("entryCSN");
  }

  void edit(int i, String attribute, String value) throws LDAPException {
    try (var root = slapd.root()) {
      root.modify(entry(i).getDN(), new Modification(ModificationType.REPLACE, attribute, value));
    }
  }

  void join(int i, String group, String by) throws LDAPException {
    change(i, group, by, ModificationType.ADD);
  }

  void leave(int i, String group, String by) throws LDAPException {
    change(i, group, by, ModificationType.DELETE);
  }

  private void change(int i, String group, String by, ModificationType how) throws LDAPException {
    try (var root = slapd.root()) {
      root.modify(
          "cn=%s,%s".formatted(group, StaffDirectory.GROUPS),
          new Modification(how, by, entry(i).getDN()));
    }
  }

  void delete(int i) throws LDAPException {
    try (var root = slapd.root()) {
      root.delete(entry(i).getDN());
    }
  }

  @Override
  public void close() throws InterruptedException {
    slapd.close();
  }
}
