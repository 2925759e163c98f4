package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.AccountView;
import ebb.api.AlikeView;
import ebb.api.ChangeSetView;
import ebb.api.DuplicateView;
import ebb.api.GrantRequest;
import ebb.api.HoldRequest;
import ebb.api.HoldView;
import ebb.api.KeyView;
import ebb.api.Listing;
import ebb.api.OddityView;
import ebb.api.OtherPerson;
import ebb.api.PersonEdit;
import ebb.api.PersonSummary;
import ebb.api.PersonView;
import ebb.api.ReferringView;
import ebb.api.RenameRequest;
import ebb.api.RenameView;
import ebb.api.RenameView.DerivedView;
import ebb.api.SelectionEdit;
import ebb.api.SignInView;
import ebb.api.SuspensionView;
import ebb.api.WhyView;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    addMethodSubcommands = false,
    name = "people",
    mixinStandardHelpOptions = true,
    description = "Find people, and change what is known of them by hand.",
    footerHeading = "%nExamples:%n",
    footer = {
      "  ebb people list --name holm",
      "  ebb people list --filter 'department eq \"Engine\" and endDate pr' -o csv",
      "  ebb people add name.givenName=Ida name.familyName=Holm department=Deck",
      "  ebb people edit 12 title=Bosun --release",
      "  ebb people grant 12 --application directory --group first-aid --reason 'course passed'"
    })
final class PeopleCommand {
  private static final String PATH = "/api/v1/people";

  @ParentCommand private Main main;

  @Command(mixinStandardHelpOptions = true, description = "People by family name.")
  void list(
      @Option(names = "--name", description = "family name begins with") String name,
      @Option(names = "--filter", description = "as in RFC 7644: department eq \"Deck\"")
          String filter,
      @Option(names = "--limit", defaultValue = "50", description = "Default: ${DEFAULT-VALUE}")
          int limit) {
    var byName =
        name == null ? null : "name.familyName sw \"%s\"".formatted(name.replace("\"", ""));
    var both = byName == null || filter == null ? null : byName + " and (" + filter + ")";
    var chosen = both != null ? both : byName != null ? byName : filter;
    var path = chosen == null ? PATH : PATH + "?filter=" + Service.encoded(chosen);
    main.output()
        .list(
            main.service().list(path, PersonSummary.class, limit),
            "Nobody found. Bring people in with: ebb imports add FILE --source NAME",
            List.of(
                column("ID", PersonSummary::id),
                column("NAME", PersonSummary::displayName),
                column("LOGIN", PersonSummary::login),
                column("DEPARTMENT", PersonSummary::department),
                column("KIND", PersonSummary::userType),
                column("STAGE", one -> stage(one)),
                column("FIRST DAY", PersonSummary::startDate),
                column("LAST DAY", PersonSummary::endDate)));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "One person: attributes, accounts, changes.")
  void show(@Parameters(paramLabel = "ID") long id) {
    var person = main.service().get(PATH + "/" + id, PersonView.class);
    main.output().one(person, () -> text(person));
  }

  private static String held(AccountView account) {
    var groups = account.groups().isEmpty() ? "" : "groups: " + String.join(", ", account.groups());
    return account.seats().isEmpty()
        ? groups
        : "seat: %s  %s".formatted(String.join(", ", account.seats()), groups);
  }

  private static String words(SuspensionView one) {
    return one.note() == null ? one.reason() : one.reason() + ", " + one.note();
  }

  private void text(PersonView person) {
    var out = main.output();
    out.line("%s  (person %d, %s)", person.displayName(), person.id(), person.stage());
    out.line(
        "  login   %s%s",
        Text.orDash(person.login()),
        person.aliases().isEmpty() ? "" : "  earlier: " + String.join(", ", person.aliases()));
    if (person.emergencyStop() != null) {
      out.line(
          "  emergency stop by %s: %s  (ebb emergency show %d)",
          person.emergencyStop().by(), person.emergencyStop().reason(), person.id());
    }
    person
        .suspensions()
        .forEach(
            one ->
                out.line(
                    "  suspended from %s until %s: %s%s  (ebb suspensions ways %d)",
                    one.from(),
                    one.until() == null ? "brought back" : one.until(),
                    one.reason() == null ? "why is discreet" : words(one),
                    one.notices() ? "; notices go on" : "",
                    person.id()));
    person
        .attributes()
        .forEach(
            (name, value) -> {
              out.line(
                  "  %-20s %-34s from %s since %s%s",
                  name,
                  value.value(),
                  value.source(),
                  Text.time(value.since()),
                  value.until() == null ? "" : " until " + value.until());
              value
                  .others()
                  .forEach(
                      other ->
                          out.line("  %-20s %-34s %s says", "", other.value(), other.source()));
            });
    out.line("Accounts");
    person
        .accounts()
        .forEach(
            account ->
                out.line(
                    "  %-18s %-10s %-22s %s%s",
                    account.application(),
                    account.level(),
                    account.name(),
                    held(account),
                    account.closing() ? "  closing" : ""));
    if (person.accounts().isEmpty()) {
      out.line("  none");
    }
    person
        .grants()
        .forEach(
            grant ->
                out.line(
                    "Grant %d: %s in %s (%s)",
                    grant.id(),
                    grant.group() == null ? "an account" : "group " + grant.group(),
                    grant.application(),
                    grant.reason()));
    person
        .holds()
        .forEach(
            hold ->
                out.line(
                    "Hold %d, set by %s%s: %s",
                    hold.id(),
                    hold.setBy(),
                    hold.until() == null ? "" : ", until " + hold.until(),
                    hold.reason()));
    out.line("Latest changes");
    person.changes().stream()
        .limit(10)
        .forEach(
            change ->
                out.line(
                    "  set %-4d %-18s %-40s %-9s %s",
                    change.changeSet(),
                    change.application(),
                    change.what(),
                    change.state(),
                    Text.time(change.seenAt())));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Add a person; shows what they would get.")
  void add(
      @Parameters(paramLabel = "ATTRIBUTE=VALUE", arity = "1..*") Map<String, String> attributes,
      @Option(names = "--release", description = "release at once") boolean release) {
    var sets = new Sets(main);
    sets.shown(main.service().post(PATH, new PersonEdit(attributes), ChangeSetView.class), release);
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Set attributes by hand; an empty value takes the override away.")
  void edit(
      @Parameters(paramLabel = "ID", index = "0") long id,
      @Parameters(paramLabel = "ATTRIBUTE=VALUE", index = "1..*", arity = "1..*")
          Map<String, String> attributes,
      @Option(names = "--until", description = "the last day it holds; default for good")
          LocalDate until,
      @Option(names = "--release", description = "release at once") boolean release) {
    new Sets(main)
        .shown(
            main.service()
                .write(
                    "PATCH",
                    PATH + "/" + id,
                    new PersonEdit(new TreeMap<>(attributes), until),
                    ChangeSetView.class),
            release);
  }

  @Command(
      name = "sign-ins",
      mixinStandardHelpOptions = true,
      description = "When somebody last signed in to each application, as they say now.")
  void signIns(@Parameters(paramLabel = "ID") long id) {
    main.output()
        .list(
            main.service().list(PATH + "/" + id + "/sign-ins", SignInView.class, 1_000),
            "They have no account.",
            List.of(
                column("APPLICATION", SignInView::application),
                column("ACCOUNT", SignInView::name),
                column(
                    "LAST SIGN-IN",
                    one ->
                        !one.known()
                            ? "not known"
                            : one.signedInAt() == null ? "never" : Text.time(one.signedInAt())),
                column(
                    "USED OTHERWISE", one -> one.usedAt() == null ? "" : Text.time(one.usedAt()))));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Show what moving people to another unit would change, for each of them.")
  void move(
      @Parameters(paramLabel = "UNIT", index = "0") String unit,
      @Parameters(paramLabel = "ID", index = "1..*", arity = "1..*") List<Long> people,
      @Option(names = "--manager", paramLabel = "ID", description = "who answers for them there")
          Long manager,
      @Option(names = "--until", description = "the last day it holds; default for good")
          LocalDate until,
      @Option(names = "--release", description = "release at once") boolean release) {
    var attributes = new TreeMap<>(Map.of("department", unit));
    if (manager != null) {
      attributes.put("manager", manager.toString());
    }
    new Sets(main)
        .shown(
            main.service()
                .post(
                    PATH + "/edits",
                    new SelectionEdit(people, attributes, until),
                    ChangeSetView.class),
            release);
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "With whom something may be amiss: how many of each kind, or who.")
  void oddities(
      @Parameters(paramLabel = "KIND", arity = "0..1", description = "as no-manager") String kind) {
    if (kind == null) {
      main.output()
          .list(
              main.service().list(PATH + "/oddities", OddityView.class, 100),
              "",
              List.of(
                  column("KIND", OddityView::kind),
                  column("PEOPLE", OddityView::people),
                  column("WHO", one -> "who " + one.words()),
                  column("THEN", OddityView::remedy)));
    } else {
      main.output()
          .list(
              main.service()
                  .list(PATH + "/oddities/" + Service.encoded(kind), PersonSummary.class, 10_000),
              "Nobody is of this kind.",
              List.of(
                  column("ID", PersonSummary::id),
                  column("NAME", PersonSummary::displayName),
                  column("UNIT", one -> one.department() == null ? "" : one.department()),
                  column("STAGE", one -> stage(one))));
    }
  }

  @Command(
      mixinStandardHelpOptions = true,
      description =
          "Show what new names would change: what they are called, how they sign in, and what"
              + " follows in each application.")
  void rename(
      @Parameters(paramLabel = "ID") long id,
      @Option(names = "--given", paramLabel = "NAME") String given,
      @Option(names = "--family", paramLabel = "NAME") String family,
      @Option(
              names = "--shown-as",
              paramLabel = "NAME",
              description = "how others see them; default as it follows from the names")
          String shown,
      @Option(
              names = "--login",
              paramLabel = "LOGIN",
              description = "by which they sign in from now on; name the one they have to keep it")
          String login,
      @Option(names = "--release", description = "release at once") boolean release) {
    var request = new RenameRequest(given, family, shown, login);
    var path = PATH + "/" + id + "/rename";
    var preview = main.service().post(path + "/preview", request, RenameView.class);
    if (main.output().isForPeople()) {
      preview.derived().forEach(this::beforeAndAfter);
      preview
          .keys()
          .forEach(
              key -> main.output().line("  known to %s by %s, as before", key.source(), key.key()));
      referring(id)
          .items()
          .forEach(one -> main.output().line("  %-28s %s", one.application(), words(one)));
    }
    new Sets(main).shown(main.service().post(path, request, ChangeSetView.class), release);
  }

  private Listing<ReferringView> referring(long id) {
    return main.service().list(PATH + "/" + id + "/references", ReferringView.class, 1000);
  }

  private static String words(ReferringView one) {
    if (one.count() == null) {
      return "not known what refers to them"
          + (one.problem() == null ? ": it cannot say" : ": " + one.problem().what());
    }
    return one.count() == 0
        ? "nothing refers to them"
        : "references that %s: %,d (%s%s)"
            .formatted(
                one.follow() ? "follow a new name" : "stay right whatever the name",
                one.count(),
                String.join(", ", one.some()),
                one.count() > one.some().size() ? ", and more" : "");
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "What refers to a person in each application, as it says now.")
  void references(@Parameters(paramLabel = "ID") long id) {
    main.output()
        .list(
            referring(id),
            "They have no account.",
            List.of(
                column("APPLICATION", ReferringView::application),
                column("WHAT", PeopleCommand::words)));
  }

  private void beforeAndAfter(DerivedView one) {
    var what = (one.application() == null ? "" : one.application() + " ") + one.attribute();
    var before = String.join(", ", one.before());
    var after = String.join(", ", one.after());
    if (before.equals(after)) {
      main.output().line("  %-28s %s, as before", what, before);
    } else {
      main.output().line("  %-28s %s -> %s", what, before, after);
    }
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "What a person has in each application and why, or why not.")
  void why(@Parameters(paramLabel = "ID") long id) {
    main.output()
        .list(
            main.service().list(PATH + "/" + id + "/why", WhyView.class, 1000),
            "No rule gives anybody anything yet, and no account of theirs was found.",
            List.of(
                column("APPLICATION", WhyView::application),
                column("ACCOUNT", one -> one.account() == null ? "" : one.account().level()),
                column("LETS THEM", PeopleCommand::opening),
                column("BECAUSE", WhyView::because)));
  }

  /** As far as somebody said what their groups let one do. */
  private static String opening(WhyView why) {
    return why.groups().stream()
        .filter(group -> group.held() && (group.opens() != null || group.risk() != null))
        .map(
            group ->
                "%s (%s%s)"
                    .formatted(
                        group.opens() == null ? group.risk() + " risk" : group.opens(),
                        group.group(),
                        group.through() == null ? "" : ", through " + group.through()))
        .collect(Collectors.joining("; "));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "The keys by which sources know a person.")
  void keys(@Parameters(paramLabel = "ID") long id) {
    main.output()
        .list(
            main.service().list(PATH + "/" + id + "/keys", KeyView.class, 1000),
            "No source knows them: they were added by hand.",
            List.of(column("SOURCE", KeyView::source), column("KEY", KeyView::key)));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Who may be the same as a person, and why one would think so.")
  void alike(@Parameters(paramLabel = "ID") long id) {
    main.output()
        .list(
            main.service().list(PATH + "/" + id + "/alike", AlikeView.class, 100),
            "Nobody known is much like them.",
            List.of(
                column("ID", AlikeView::id),
                column("NAME", AlikeView::displayName),
                column("STAGE", AlikeView::stage),
                column("SURE", one -> one.score() + " %"),
                column("WHY", one -> String.join(", ", one.reasons()))));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Records that may be one person, two by two.",
      footer = {
        "%nMake one of them: ebb people merge ID OTHER.",
        "If they are two: ebb people apart ID OTHER; nobody is asked again."
      })
  void duplicates() {
    main.output()
        .list(
            main.service().list(PATH + "/duplicates", DuplicateView.class, 1000),
            "No two records are much alike.",
            List.of(
                column("ID", DuplicateView::id),
                column("NAME", DuplicateView::displayName),
                column("OTHER", one -> one.alike().id()),
                column("NAME", one -> one.alike().displayName()),
                column("SURE", one -> one.alike().score() + " %"),
                column("WHY", one -> String.join(", ", one.alike().reasons()))));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Make one record of two; shows what follows. The first one is kept.")
  void merge(
      @Parameters(paramLabel = "ID", index = "0") long id,
      @Parameters(paramLabel = "OTHER", index = "1") long other,
      @Option(names = "--release", description = "release at once") boolean release) {
    new Sets(main)
        .shown(
            main.service()
                .post(PATH + "/" + id + "/merge", new OtherPerson(other), ChangeSetView.class),
            release);
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Make somebody of their own of one key of a record; shows what follows.",
      footer = "%nThe keys of a person: ebb people keys ID")
  void part(
      @Parameters(paramLabel = "ID", index = "0") long id,
      @Parameters(paramLabel = "SOURCE", index = "1") String source,
      @Parameters(paramLabel = "KEY", index = "2") String key,
      @Option(names = "--release", description = "release at once") boolean release) {
    new Sets(main)
        .shown(
            main.service()
                .post(PATH + "/" + id + "/part", new KeyView(source, key), ChangeSetView.class),
            release);
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Remember that two people who are alike are two.")
  void apart(
      @Parameters(paramLabel = "ID", index = "0") long id,
      @Parameters(paramLabel = "OTHER", index = "1") long other) {
    main.service().write("POST", PATH + "/" + id + "/apart", new OtherPerson(other), Void.class);
    main.output().line("Person %d and person %d are two; nobody is asked again.", id, other);
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Make all passwords unusable, and send a link to choose a new one.")
  void reset(@Parameters(paramLabel = "ID") long id) {
    var sets = new Sets(main);
    var set = main.service().post(PATH + "/" + id + "/reset", null, ChangeSetView.class);
    sets.show(sets.follow(set.id()));
  }

  @Command(mixinStandardHelpOptions = true, description = "Give a group by hand.")
  void grant(
      @Parameters(paramLabel = "ID") long id,
      @Option(names = "--application", required = true) String application,
      @Option(names = "--group", required = true) String group,
      @Option(names = "--reason", required = true) String reason,
      @Option(names = "--from", description = "first day; default today") LocalDate from,
      @Option(names = "--until", description = "last day included") LocalDate until,
      @Option(names = "--release", description = "release at once") boolean release) {
    new Sets(main)
        .shown(
            main.service()
                .post(
                    PATH + "/" + id + "/grants",
                    new GrantRequest(application, group, reason, from, until),
                    ChangeSetView.class),
            release);
  }

  @Command(name = "end-grant", mixinStandardHelpOptions = true, description = "End a grant.")
  void endGrant(
      @Parameters(paramLabel = "ID", index = "0") long id,
      @Parameters(paramLabel = "GRANT", index = "1") long grant,
      @Option(names = "--release", description = "release at once") boolean release) {
    new Sets(main)
        .shown(
            main.service()
                .write("DELETE", PATH + "/" + id + "/grants/" + grant, null, ChangeSetView.class),
            release);
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Order that nothing of a person may be removed.")
  void hold(
      @Parameters(paramLabel = "ID") long id,
      @Option(names = "--reason", required = true) String reason,
      @Option(names = "--until", description = "last day included; default until lifted")
          LocalDate until) {
    var hold =
        main.service()
            .post(PATH + "/" + id + "/holds", new HoldRequest(reason, until), HoldView.class);
    main.output()
        .one(
            hold,
            () ->
                main.output()
                    .line(
                        "Hold %d is in force. Lift it: ebb people lift %d %d",
                        hold.id(), id, hold.id()));
  }

  private static String stage(PersonSummary person) {
    return person.suspended() ? person.stage() + ", suspended" : person.stage();
  }

  @Command(mixinStandardHelpOptions = true, description = "Lift a hold.")
  void lift(
      @Parameters(paramLabel = "ID", index = "0") long id,
      @Parameters(paramLabel = "HOLD", index = "1") long hold) {
    main.service().delete(PATH + "/" + id + "/holds/" + hold);
    main.output().line("Hold %d is lifted.", hold);
  }
}
