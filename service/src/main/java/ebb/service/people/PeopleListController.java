package ebb.service.people;

import de.siegmar.fastcsv.writer.CsvWriter;
import ebb.api.ChangeSetView;
import ebb.api.Listing;
import ebb.api.PersonSummary;
import ebb.api.SelectionEdit;
import ebb.api.SelectionRequest;
import ebb.core.change.ChangeSet;
import ebb.core.operator.Act;
import ebb.core.person.Attribute;
import ebb.core.person.Attributes;
import ebb.core.person.PersonId;
import ebb.core.person.Suspension;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.changes.ChangeViews;
import ebb.service.reach.Reaches;
import ebb.service.selection.Filters;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Cells;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.Page;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.OwnAttributes;
import ebb.store.people.People;
import ebb.store.people.PeopleCursor;
import ebb.store.people.PeopleFilter;
import ebb.store.people.PeopleLists;
import ebb.store.people.PeopleOrder;
import ebb.store.people.PeopleOrder.By;
import ebb.store.people.StoredPerson;
import ebb.store.people.Suspensions;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.security.Principal;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.function.Function;
import org.hibernate.StatelessSession;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

/** Many people: listed, exported, and worked on together. */
@RestController
@RequestMapping("/api/v1/people")
class PeopleListController {
  /** Counting further takes longer than the list itself. */
  private static final int COUNTED = 10_000;

  private static final int VALUES = 500;
  private static final int ROWS_AT_ONCE = 1_000;

  private static final Map<String, By> ORDERS =
      Map.of(
          "name", By.NAME,
          "userName", By.LOGIN,
          "department", By.DEPARTMENT,
          "employeeNumber", By.NUMBER,
          "startDate", By.START_DATE,
          "endDate", By.END_DATE);

  private final Database database;
  private final BusinessClock clock;
  private final People people;
  private final PeopleLists lists;
  private final ChangeViews views;
  private final HandEdits edits;
  private final Journal journal;
  private final Reaches reaches;
  private final OwnAttributes attributes;
  private final Suspensions suspensions;

  PeopleListController(
      Database database,
      BusinessClock clock,
      People people,
      PeopleLists lists,
      ChangeViews views,
      HandEdits edits,
      Journal journal,
      Reaches reaches,
      OwnAttributes attributes,
      Suspensions suspensions) {
    this.suspensions = suspensions;
    this.database = database;
    this.clock = clock;
    this.people = people;
    this.lists = lists;
    this.views = views;
    this.edits = edits;
    this.journal = journal;
    this.reaches = reaches;
    this.attributes = attributes;
  }

  /**
   * People, counted to ten thousand.
   *
   * @param filter as in RFC 7644: department eq "Deck" and stage eq "leaving"
   * @param sort name, userName, department, employeeNumber, startDate or endDate; a - before it
   *     turns it round
   */
  @Allowed(Act.SEE)
  @GetMapping
  Listing<PersonSummary> list(
      @RequestParam(required = false) String filter,
      @RequestParam(required = false) String sort,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit,
      Principal principal) {
    var parsed = filter(filter, principal);
    var order = order(sort);
    var from = cursor(cursor, order);
    var own = own();
    return database.read(
        session -> {
          var page = lists.list(session, parsed, order, from, Requests.limit(limit));
          var count = lists.count(session, parsed, COUNTED);
          var isExact = parsed == PeopleFilter.EVERYONE || count <= COUNTED;
          return new Listing<>(
              summaries(session, page.items(), own),
              page.next(),
              isExact ? count : null,
              isExact ? null : (long) COUNTED);
        });
  }

  /** The values people have for department or userType, in order. */
  @Allowed(Act.SEE)
  @GetMapping("/values")
  Listing<String> values(@RequestParam String attribute, Principal principal) {
    var reach = Callers.of(principal).reach();
    var allowed =
        switch (attribute) {
          case Attributes.DEPARTMENT -> reach.units();
          case Attributes.USER_TYPE -> reach.kinds();
          default -> throw unknown("attribute", attribute, "department, userType");
        };
    var values = database.read(session -> lists.valuesOf(session, attribute, VALUES));
    return Listing.whole(
        values.stream().filter(value -> allowed.isEmpty() || allowed.contains(value)).toList());
  }

  /**
   * The list as a file, all of it. A cell a spreadsheet would take for a formula begins with an
   * apostrophe.
   *
   * @param columns of the list or own attributes, in this order; left out for all
   */
  @Allowed(Act.EXPORT)
  @GetMapping("/export")
  ResponseEntity<StreamingResponseBody> export(
      @RequestParam(required = false) String filter,
      @RequestParam(required = false) String sort,
      @RequestParam(required = false) List<String> columns,
      Principal principal) {
    var parsed = filter(filter, principal);
    var order = order(sort);
    var own = own();
    var chosen = columns(columns, own);
    database.writeAll(
        session ->
            journal.write(
                session,
                clock.instant(),
                Deed.of(principal.getName(), "exported the list of people")
                    .because(filter == null ? "everybody" : filter)));
    StreamingResponseBody body =
        out -> {
          var csv = CsvWriter.builder().build(new OutputStreamWriter(out, StandardCharsets.UTF_8));
          csv.writeRecord(chosen.keySet());
          write(csv, parsed, order, chosen, own);
          csv.flush();
        };
    return ResponseEntity.ok()
        .contentType(new MediaType("text", "csv", StandardCharsets.UTF_8))
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.attachment().filename("people.csv").build().toString())
        .body(body);
  }

  private void write(
      CsvWriter csv,
      PeopleFilter filter,
      PeopleOrder order,
      Map<String, Function<PersonSummary, Object>> columns,
      List<String> own)
      throws IOException {
    PeopleCursor cursor = null;
    do {
      var from = cursor;
      var page =
          database.read(
              session -> {
                var some = lists.list(session, filter, order, from, ROWS_AT_ONCE);
                return new Page<>(summaries(session, some.items(), own), some.next());
              });
      page.items()
          .forEach(
              person ->
                  csv.writeRecord(
                      columns.values().stream()
                          .map(column -> Cells.defused(column.apply(person)))
                          .toList()));
      cursor = page.next() == null ? null : PeopleCursor.of(page.next(), order).orElseThrow();
    } while (cursor != null);
  }

  /** Shows, as a change set, what an edit of several people would change. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/edits")
  ResponseEntity<ChangeSetView> edit(@RequestBody SelectionEdit request, Principal principal) {
    var ids = ids(request.people());
    reaches.requireAll(principal, ids);
    return shown(
        edits.editAll(
            ids,
            request.attributes(),
            request.until(),
            principal.getName(),
            person -> reaches.require(principal, person)));
  }

  /** Makes the passwords of several people unusable, and asks each for a new one. */
  @Allowed(Act.RESET)
  @PostMapping("/resets")
  ResponseEntity<ChangeSetView> reset(@RequestBody SelectionRequest request, Principal principal) {
    var ids = ids(request.people());
    reaches.requireAll(principal, ids);
    return shown(edits.resetAll(ids, principal.getName()));
  }

  private static List<PersonId> ids(List<Long> people) {
    return people == null
        ? List.of()
        : people.stream().filter(Objects::nonNull).distinct().map(PersonId::new).toList();
  }

  private ResponseEntity<ChangeSetView> shown(ChangeSet set) {
    return ResponseEntity.created(URI.create("/api/v1/change-sets/" + set.id()))
        .body(database.read(session -> views.view(session, set)));
  }

  private PeopleFilter filter(String filter, Principal principal) {
    return Filters.parse(filter, clock.today(), database.read(attributes::catalogue))
        .and(PeopleFilter.within(Callers.of(principal).reach()));
  }

  private static PeopleOrder order(String sort) {
    if (sort == null || sort.isBlank()) {
      return PeopleOrder.NAME;
    }
    var descending = sort.startsWith("-");
    var by = ORDERS.get(descending ? sort.substring(1) : sort);
    if (by == null) {
      throw unknown("sort", sort, String.join(", ", ORDERS.keySet().stream().sorted().toList()));
    }
    return new PeopleOrder(by, descending);
  }

  private static PeopleCursor cursor(String cursor, PeopleOrder order) {
    return cursor == null
        ? null
        : PeopleCursor.of(cursor, order).orElseThrow(() -> Requests.badCursor(cursor));
  }

  /** The organisation's own attributes. */
  private List<String> own() {
    return database.read(attributes::catalogue).all().stream()
        .filter(Attribute::own)
        .map(Attribute::name)
        .toList();
  }

  private static Map<String, Function<PersonSummary, Object>> columns(
      List<String> chosen, List<String> own) {
    var all = new LinkedHashMap<String, Function<PersonSummary, Object>>();
    all.put("id", PersonSummary::id);
    all.put("displayName", PersonSummary::displayName);
    all.put("userName", PersonSummary::login);
    all.put("employeeNumber", PersonSummary::employeeNumber);
    all.put("department", PersonSummary::department);
    all.put("title", PersonSummary::title);
    all.put("userType", PersonSummary::userType);
    all.put("stage", PersonSummary::stage);
    all.put("suspended", PersonSummary::suspended);
    all.put("startDate", PersonSummary::startDate);
    all.put("endDate", PersonSummary::endDate);
    own.forEach(name -> all.put(name, person -> person.own().get(name)));
    if (chosen == null || chosen.isEmpty()) {
      return all;
    }
    var some = new LinkedHashMap<String, Function<PersonSummary, Object>>();
    for (var name : chosen) {
      if (!all.containsKey(name)) {
        throw unknown("columns", name, String.join(", ", all.keySet()));
      }
      some.put(name, all.get(name));
    }
    return some;
  }

  private static Refusal unknown(String field, String value, String known) {
    return Refusal.invalid(
        new Problem(
            "word-unknown",
            "%s is no %s of this list.".formatted(value, field),
            "It is one of %s.".formatted(known),
            "Use one of those.",
            Where.field(field)));
  }

  /** Of these people, in this order. */
  List<PersonSummary> summaries(StatelessSession session, List<PersonId> ids) {
    var found = people.getAll(session, ids);
    return summaries(session, ids.stream().map(found::get).toList(), List.of());
  }

  private List<PersonSummary> summaries(
      StatelessSession session, List<StoredPerson> some, List<String> own) {
    var ids = some.stream().map(stored -> stored.person().id()).toList();
    var ordered = suspensions.of(session, ids);
    return some.stream()
        .map(
            stored ->
                summary(
                    stored,
                    isSuspended(ordered.getOrDefault(stored.person().id(), List.of())),
                    own))
        .toList();
  }

  private boolean isSuspended(List<Suspension> ordered) {
    return ordered.stream()
        .anyMatch(one -> one.applications().isEmpty() && one.isInForceOn(clock.today()));
  }

  private PersonSummary summary(StoredPerson stored, boolean isSuspended, List<String> own) {
    var person = stored.person();
    var values = new TreeMap<String, String>();
    own.forEach(name -> person.get(name).ifPresent(value -> values.put(name, value)));
    return new PersonSummary(
        person.id().value(),
        stored.displayName(),
        stored.login(),
        person.get(Attributes.EMPLOYEE_NUMBER).orElse(null),
        person.get(Attributes.DEPARTMENT).orElse(null),
        person.get(Attributes.TITLE).orElse(null),
        person.get(Attributes.USER_TYPE).orElse(null),
        person.stage(clock.instant(), clock.zone()).word(),
        isSuspended,
        person.date(Attributes.START_DATE).orElse(null),
        person.date(Attributes.END_DATE).orElse(null),
        values);
  }
}
