package ebb.service.imports;

import ebb.connectors.file.Tables;
import ebb.core.change.Input;
import ebb.core.imports.Import;
import ebb.core.imports.LinkedCheck;
import ebb.core.imports.LinkedFile;
import ebb.core.imports.LinkedRow;
import ebb.core.imports.ValueCheck;
import ebb.core.imports.Verdict;
import ebb.core.person.Asserted;
import ebb.core.person.Assertions;
import ebb.core.person.Attributes;
import ebb.core.person.Catalogue;
import ebb.core.person.Grant;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.changes.Proposals;
import ebb.service.pictures.Pictures;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.applications.Applications;
import ebb.store.imports.LinkedRows;
import ebb.store.people.Grants;
import ebb.store.people.OwnAttributes;
import ebb.store.people.People;
import ebb.store.people.Sources;
import java.io.IOException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/**
 * Reads what is linked to a list of people. Units and groups come first, as people and memberships
 * speak of them; memberships become grants whose ground is the source, pictures what it says.
 */
@Component
final class LinkedFiles {
  private static final int ROWS_AT_ONCE = 1_000;
  private static final int PEOPLE_AT_ONCE = 500;

  /** Some 600 bytes each are held until all were read. */
  private static final int MOST_MEMBERSHIPS = 250_000;

  private static final int MOST_UNITS = 100_000;

  private final Database database;
  private final BusinessClock clock;
  private final Proposals proposals;
  private final LinkedRows rows;
  private final Grants grants;
  private final People people;
  private final Sources sources;
  private final OwnAttributes attributes;
  private final Applications applications;
  private final Pictures pictures;

  LinkedFiles(
      Database database,
      BusinessClock clock,
      Proposals proposals,
      LinkedRows rows,
      Grants grants,
      People people,
      Sources sources,
      OwnAttributes attributes,
      Applications applications,
      Pictures pictures) {
    this.database = database;
    this.clock = clock;
    this.proposals = proposals;
    this.rows = rows;
    this.grants = grants;
    this.people = people;
    this.sources = sources;
    this.attributes = attributes;
    this.applications = applications;
    this.pictures = pictures;
  }

  /** Whose key stands in a linked file. */
  sealed interface Member {
    record Known(PersonId person) implements Member {}

    /** In the list of people, where the row is refused or set aside. */
    record Waits() implements Member {}

    record Unknown() implements Member {}
  }

  /** Key to name of the units an import's rows may speak of; empty where rows have names. */
  Map<String, String> unitNames(Import made) {
    var names = new HashMap<String, String>();
    listed(made, LinkedFile.UNITS).forEach((key, says) -> names.put(key, says.get("name")));
    return names;
  }

  /** What the import itself says; failing that, what its source said last. */
  private Map<String, SortedMap<String, String>> listed(Import made, LinkedFile file) {
    return database.read(
        session -> {
          var said = rows.said(session, made.id(), file);
          return said.isEmpty() ? rows.known(session, made.source(), file) : said;
        });
  }

  /** Reads units and groups. */
  void readLists(Import made, Path folder) throws IOException {
    for (var file : List.of(LinkedFile.UNITS, LinkedFile.GROUPS)) {
      var path = Bundles.file(folder, file);
      if (path.isPresent()) {
        var read = new ArrayList<LinkedRow>();
        var check = eachRow(made, file, path.get(), row -> take(made, read, row));
        var before = database.read(session -> rows.known(session, made.source(), file));
        keep(
            made,
            file == LinkedFile.UNITS
                ? check.units(read, before)
                : check.groups(read, connected(), before));
      }
    }
  }

  private static void take(Import made, List<LinkedRow> read, LinkedRow row) {
    if (read.size() == MOST_UNITS) {
      throw Refusal.invalid(tooMany(made, row.file(), MOST_UNITS));
    }
    read.add(row);
  }

  private TreeSet<String> connected() {
    return database.read(applications::list).stream()
        .map(one -> one.name())
        .collect(Collectors.toCollection(TreeSet::new));
  }

  /**
   * Joins memberships and pictures to people, when it is known who of them is taken in.
   *
   * @param set gathers what follows
   */
  void join(Import made, long set, Path folder, Function<String, Member> members)
      throws IOException {
    var path = Bundles.file(folder, LinkedFile.MEMBERSHIPS);
    if (path.isPresent()) {
      new Memberships(made, set, members).read(path.get());
    }
    joinPictures(made, set, folder, members);
  }

  /**
   * Gives somebody what linked files say under a key, as their row goes on now.
   *
   * @param person to whom the key belongs
   */
  void follow(Import made, String key, PersonId person) {
    var found = database.read(session -> rows.under(session, made.id(), key));
    var groups =
        found.isEmpty()
            ? Map.<String, SortedMap<String, String>>of()
            : listed(made, LinkedFile.GROUPS);
    var inputs = new ArrayList<Input>();
    for (var row : found) {
      switch (row.file()) {
        case MEMBERSHIPS -> inputs.add(give(made, person, row, groups.get(row.says("group"))));
        case PICTURES -> inputs.add(shows(made, person, row.says("picture")));
        case UNITS, GROUPS -> {
          // A unit may have the number of a person.
        }
      }
    }
    database.writeAll(
        session -> {
          found.stream()
              .filter(row -> row.verdict() == Verdict.SET_ASIDE)
              .forEach(
                  row ->
                      rows.putAgain(
                          session,
                          made.id(),
                          new LinkedRow(
                              row.file(), row.line(), Verdict.NEW, key, row.says(), List.of())));
          proposals.add(session, made.changeSet(), inputs);
        });
  }

  private interface EachRow {
    void take(LinkedRow row);
  }

  private LinkedCheck eachRow(Import made, LinkedFile file, Path path, EachRow each)
      throws IOException {
    var name = path.getFileName().toString();
    try (var table = Tables.open(path, name, Tables.look(path, name).format())) {
      var check = check(made, file, name, table.headings());
      for (var row = table.next(); row.isPresent(); row = table.next()) {
        each.take(check.read(row.get()));
      }
      return check;
    }
  }

  private LinkedCheck check(Import made, LinkedFile file, String name, List<String> headings) {
    Catalogue catalogue = database.read(attributes::catalogue);
    var mapping =
        database.read(session -> sources.get(session, made.source())).orElseThrow().mapping();
    return new LinkedCheck(file, name, headings, new ValueCheck(catalogue, mapping.dateFormat()));
  }

  private void keep(Import made, List<LinkedRow> all) {
    for (int from = 0; from < all.size(); from += ROWS_AT_ONCE) {
      var part = all.subList(from, Math.min(from + ROWS_AT_ONCE, all.size()));
      database.writeForNow(session -> rows.put(session, made.id(), part));
    }
  }

  private Input give(Import made, PersonId person, LinkedRow row, SortedMap<String, String> group) {
    var from = row.says("from").isEmpty() ? clock.today() : LocalDate.parse(row.says("from"));
    return new Input.Give(
        person,
        new Grant(
            database.write(grants::number),
            person,
            group.get("application"),
            group.getOrDefault("name", row.says("group")),
            "%s says so".formatted(made.source()),
            from,
            row.says("until").isEmpty() ? null : LocalDate.parse(row.says("until")),
            made.source()));
  }

  private static Input shows(Import made, PersonId person, String print) {
    return new Input.Assert(person, made.source(), null, null, Map.of(Attributes.PHOTO, print));
  }

  private static Problem noMemberships(Path path) {
    var name = path.getFileName().toString();
    return new Problem(
        "memberships-without-rows",
        "%s has headings and no rows.".formatted(name),
        "Taken as complete it would take everybody out of their groups.",
        "Export it again; or leave the file out of the bundle.",
        Where.file(name));
  }

  private static Problem tooMany(Import made, LinkedFile file, int most) {
    return new Problem(
        "linked-too-many",
        "%s has more than %,d %s.".formatted(made.file(), most, file.word()),
        "They are held in memory while they are joined.",
        "Bring them in in parts, not said to be complete.",
        Where.file(made.file()));
  }

  /** One reading of a file of memberships. */
  private final class Memberships {
    private final Import made;
    private final long set;
    private final Function<String, Member> members;
    private final Map<String, SortedMap<String, String>> groups;
    private final List<LinkedRow> amiss = new ArrayList<>();
    private final Map<PersonId, List<LinkedRow>> byPerson =
        new TreeMap<>(Comparator.comparing(PersonId::value));

    /** Of whom a row cannot be taken: what they have is not ended for want of a row. */
    private final Set<PersonId> doubtful = new HashSet<>();

    private LinkedCheck check;

    Memberships(Import made, long set, Function<String, Member> members) {
      this.made = made;
      this.set = set;
      this.members = members;
      this.groups = listed(made, LinkedFile.GROUPS);
    }

    void read(Path path) throws IOException {
      var read = new ArrayList<LinkedRow>();
      check =
          eachRow(
              made,
              LinkedFile.MEMBERSHIPS,
              path,
              row -> {
                if (read.size() == MOST_MEMBERSHIPS) {
                  throw Refusal.invalid(tooMany(made, LinkedFile.MEMBERSHIPS, MOST_MEMBERSHIPS));
                }
                read.add(row);
              });
      if (read.isEmpty() && made.terms().complete()) {
        throw Refusal.invalid(noMemberships(path));
      }
      read.forEach(this::sort);
      keep(made, amiss);
      var who = new TreeSet<>(Comparator.comparing(PersonId::value));
      who.addAll(byPerson.keySet());
      PersonId last = null;
      if (endsOthers()) {
        for (var part = theirs(last); !part.isEmpty(); part = theirs(last)) {
          who.addAll(part);
          last = part.getLast();
        }
      }
      for (var part : parts(who)) {
        compare(part);
      }
    }

    /** Whether what no row names is over. */
    private boolean endsOthers() {
      return made.terms().complete() && made.terms().mode().updates();
    }

    private List<PersonId> theirs(PersonId after) {
      return database.read(
          session -> grants.peopleOf(session, made.source(), after, PEOPLE_AT_ONCE));
    }

    private void sort(LinkedRow row) {
      switch (members.apply(row.key())) {
        case Member.Known(var person) -> sort(person, row);
        case Member.Waits _, Member.Unknown _ when isGone(row) -> {
          // Whoever is not taken in has nothing to lose.
        }
        case Member.Waits _ when isGood(row) -> amiss.add(check.memberWaits(row));
        case Member.Unknown _ when isGood(row) -> amiss.add(check.memberUnknown(row));
        default -> amiss.add(refused(row));
      }
    }

    private boolean isGood(LinkedRow row) {
      return row.verdict() != Verdict.REFUSED && groups.containsKey(row.says("group"));
    }

    private static boolean isGone(LinkedRow row) {
      return row.verdict() != Verdict.REFUSED && row.says("gone").equals("true");
    }

    private LinkedRow refused(LinkedRow row) {
      return row.verdict() == Verdict.REFUSED ? row : check.groupUnknown(row);
    }

    private void sort(PersonId person, LinkedRow row) {
      if (!isGood(row)) {
        amiss.add(refused(row));
        doubtful.add(person);
        return;
      }
      var theirs = byPerson.computeIfAbsent(person, _ -> new ArrayList<>(2));
      theirs.stream()
          .filter(other -> other.says("group").equals(row.says("group")))
          .findFirst()
          .ifPresentOrElse(
              other -> amiss.add(check.membershipDoubled(row, other.line())),
              () -> theirs.add(row));
    }

    private void compare(Collection<PersonId> part) {
      var held = database.read(session -> grants.of(session, part));
      var inputs = new ArrayList<Input>();
      var said = new ArrayList<LinkedRow>();
      for (var person : part) {
        var now =
            held.getOrDefault(person, List.of()).stream()
                .filter(grant -> grant.source().equals(made.source()))
                .collect(Collectors.toCollection(ArrayList::new));
        for (var one : byPerson.getOrDefault(person, List.of())) {
          compare(person, one, now, inputs, said);
        }
        // What is left of them no row names any more.
        if (endsOthers() && !doubtful.contains(person)) {
          now.forEach(grant -> inputs.add(new Input.EndGrant(person, grant.id())));
        }
      }
      database.writeForNow(
          session -> {
            rows.put(session, made.id(), said);
            proposals.add(session, set, inputs);
          });
    }

    private void compare(
        PersonId person, LinkedRow row, List<Grant> now, List<Input> inputs, List<LinkedRow> said) {
      var group = groups.get(row.says("group"));
      var same = now.stream().filter(grant -> isOf(grant, group, row.says("group"))).findFirst();
      same.ifPresent(now::remove);
      if (isGone(row)) {
        same.filter(_ -> made.terms().mode().updates())
            .ifPresent(
                grant -> {
                  said.add(row.as(Verdict.CHANGED));
                  inputs.add(new Input.EndGrant(person, grant.id()));
                });
        return;
      }
      if (same.isEmpty() && made.terms().mode().adds()) {
        said.add(row.as(Verdict.NEW));
        inputs.add(give(made, person, row, group));
      } else if (same.isEmpty()) {
        said.add(row.as(Verdict.LEFT_ALONE));
      } else if (!isSame(same.get(), row)) {
        said.add(row.as(made.terms().mode().updates() ? Verdict.CHANGED : Verdict.LEFT_ALONE));
        if (made.terms().mode().updates()) {
          inputs.add(new Input.EndGrant(person, same.get().id()));
          inputs.add(give(made, person, row, group));
        }
      }
    }

    private static boolean isOf(Grant grant, SortedMap<String, String> group, String key) {
      return grant.application().equals(group.get("application"))
          && grant.group().equals(group.getOrDefault("name", key));
    }

    private static boolean isSame(Grant grant, LinkedRow row) {
      var isFrom = row.says("from").isEmpty() || row.says("from").equals(grant.from().toString());
      return isFrom && row.says("until").equals(Objects.toString(grant.until(), ""));
    }
  }

  private static <T> List<List<T>> parts(Collection<T> all) {
    var list = new ArrayList<>(all);
    var parts = new ArrayList<List<T>>();
    for (int from = 0; from < list.size(); from += PEOPLE_AT_ONCE) {
      parts.add(list.subList(from, Math.min(from + PEOPLE_AT_ONCE, list.size())));
    }
    return parts;
  }

  private void joinPictures(Import made, long set, Path folder, Function<String, Member> members)
      throws IOException {
    long number = 0;
    for (var part : parts(Bundles.pictures(folder))) {
      var said = new TreeMap<PersonId, LinkedRow>(Comparator.comparing(PersonId::value));
      var amiss = new ArrayList<LinkedRow>();
      for (var file : part) {
        var row = picture(file, ++number);
        var member = members.apply(row.key());
        if (row.verdict() == Verdict.REFUSED) {
          amiss.add(row);
        } else if (member instanceof Member.Known(var person)) {
          said.put(person, row);
        } else {
          amiss.add(nobodys(file, row, member instanceof Member.Waits));
        }
      }
      database.writeForNow(
          session -> {
            rows.put(session, made.id(), amiss);
            join(session, made, set, said);
          });
    }
  }

  private void join(
      StatelessSession session, Import made, long set, Map<PersonId, LinkedRow> said) {
    var now = people.assertions(session, said.keySet());
    var inputs = new ArrayList<Input>();
    var kept = new ArrayList<LinkedRow>();
    said.forEach(
        (person, row) -> {
          var before = photo(now.getOrDefault(person, List.of()), made.source());
          if (!row.says("picture").equals(before)) {
            kept.add(row.as(before == null ? Verdict.NEW : Verdict.CHANGED));
            inputs.add(shows(made, person, row.says("picture")));
          }
        });
    rows.put(session, made.id(), kept);
    proposals.add(session, set, inputs);
  }

  private static String photo(List<Assertions> all, String source) {
    return all.stream()
        .filter(assertions -> assertions.source().equals(source))
        .map(assertions -> assertions.values().get(Attributes.PHOTO))
        .filter(Objects::nonNull)
        .map(Asserted::value)
        .findFirst()
        .orElse(null);
  }

  private LinkedRow picture(Path file, long number) throws IOException {
    var name = file.getFileName().toString();
    var key = name.substring(0, name.lastIndexOf('.')).strip();
    var says = new TreeMap<>(Map.of("file", name));
    var amiss = pictures.amiss(file);
    if (amiss.isPresent()) {
      return new LinkedRow(
          LinkedFile.PICTURES,
          number,
          Verdict.REFUSED,
          key,
          says,
          List.of(
              new Problem(
                  "picture-refused",
                  amiss.get().what(),
                  "Applications take small pictures of a few kinds only.",
                  amiss.get().remedy(),
                  Where.file(name))));
    }
    var print = Pictures.print(file);
    pictures.keep(file, print);
    says.put("picture", print);
    return new LinkedRow(LinkedFile.PICTURES, number, Verdict.NEW, key, says, List.of());
  }

  private static LinkedRow nobodys(Path file, LinkedRow row, boolean waits) {
    var where = Where.file(file.getFileName().toString());
    return waits
        ? row.with(
            Verdict.SET_ASIDE,
            new Problem(
                "member-waits",
                "The row of %s is refused or set aside.".formatted(row.key()),
                "Nothing is given to somebody who is not taken in.",
                "Mend or answer the person's row; the picture follows by itself.",
                where))
        : row.with(
            Verdict.REFUSED,
            new Problem(
                "picture-of-nobody",
                "Nobody has the number %s.".formatted(row.key()),
                "A picture is called by the key of whom it shows.",
                "Call it by the number of the person, as in 1001.jpg.",
                where));
  }
}
