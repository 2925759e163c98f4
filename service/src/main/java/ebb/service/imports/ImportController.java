package ebb.service.imports;

import ebb.api.CodeRequest;
import ebb.api.ImportView;
import ebb.api.Listing;
import ebb.api.MappingEdit;
import ebb.api.MappingView;
import ebb.api.MendRequest;
import ebb.api.MendedView;
import ebb.api.MissingAnswer;
import ebb.api.MissingView;
import ebb.api.ProblemKindView;
import ebb.api.RowAnswer;
import ebb.api.RowView;
import ebb.core.imports.Import;
import ebb.core.imports.Missing;
import ebb.core.imports.Mode;
import ebb.core.imports.RowReport;
import ebb.core.imports.Terms;
import ebb.core.imports.Verdict;
import ebb.core.operator.Act;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.web.Allowed;
import ebb.service.web.Problems;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.imports.Imports;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.net.URI;
import java.security.Principal;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/imports")
class ImportController {
  private static final Pattern FORM =
      Pattern.compile(
          "(application/x-www-form-urlencoded|multipart/form-data).*", Pattern.CASE_INSENSITIVE);
  private static final int MOST_KINDS = 200;

  private final Database database;
  private final Imports imports;
  private final People people;
  private final ImportDesk desk;
  private final ImportViews views;
  private final Uploads uploads;
  private final Decisions decisions;
  private final Mends mends;

  ImportController(
      Database database,
      Imports imports,
      People people,
      ImportDesk desk,
      ImportViews views,
      Uploads uploads,
      Decisions decisions,
      Mends mends) {
    this.database = database;
    this.imports = imports;
    this.people = people;
    this.desk = desk;
    this.views = views;
    this.uploads = uploads;
    this.decisions = decisions;
    this.mends = mends;
  }

  /**
   * Brings a file in. The body is the file itself, whatever its type says. It is read by itself if
   * its columns are known, and asks what they mean otherwise.
   *
   * @param source where it comes from; left out, it is known by its columns
   * @param complete whether people it does not name are missing
   * @param mode add-and-update, add-only or update-only
   * @param prefer "wait=30" answers when it is shown, or after that many seconds (RFC 7240, 4.3)
   */
  @Allowed(Act.IMPORT)
  @PostMapping(consumes = MediaType.ALL_VALUE)
  ResponseEntity<ImportView> bring(
      @RequestParam(required = false) String source,
      @RequestParam String file,
      @RequestParam(defaultValue = "false") boolean complete,
      @RequestParam(required = false) String mode,
      @RequestParam(required = false) String charset,
      @RequestParam(required = false) String separator,
      @RequestParam(required = false) String sheet,
      @RequestHeader(name = "Prefer", required = false) String prefer,
      HttpServletRequest request,
      Principal principal)
      throws IOException {
    mustBeAFile(request);
    var terms = new Terms(complete, Requests.word(Mode.class, mode, "mode"), null);
    var said =
        new ImportDesk.Said(
            file, source, terms, views.charset(charset), separator, sheet, null, false);
    try (var upload = uploads.keep(request.getInputStream(), file)) {
      return answer(desk.add(upload, said, principal.getName()), prefer);
    }
  }

  /** Of a form nothing would be left: the server takes its body apart. */
  private static void mustBeAFile(HttpServletRequest request) {
    var type = request.getContentType();
    if (type != null && FORM.matcher(type).matches()) {
      throw new Refusal(
          Refusal.Kind.MEDIA_TYPE,
          new Problem(
              "upload-as-form",
              "The body is sent as %s.".formatted(type),
              "That is a form; the file itself is taken, byte by byte.",
              "Send it as application/octet-stream; with curl: --data-binary @FILE"
                  + " -H 'Content-Type: application/octet-stream'.",
              Where.field("Content-Type")));
    }
  }

  /**
   * How the columns of a file are read, or might be.
   *
   * @param source as if it came from this one
   */
  @Allowed(Act.SEE_IMPORTS)
  @GetMapping("/{id}/mapping")
  MappingView mapping(@PathVariable long id, @RequestParam(required = false) String source)
      throws IOException {
    return views.mapping(desk.proposal(id, source));
  }

  /** Says how a file is to be read, and reads it anew; what is said is kept with its source. */
  @Allowed(Act.IMPORT)
  @PutMapping("/{id}/mapping")
  ResponseEntity<ImportView> settle(
      @PathVariable long id,
      @RequestBody MappingEdit edit,
      @RequestHeader(name = "Prefer", required = false) String prefer,
      Principal principal)
      throws IOException {
    var made = desk.get(id);
    return answer(
        desk.settle(
            id,
            edit.source() == null ? made.source() : edit.source(),
            views.mapping(desk.proposal(id, edit.source()), edit),
            made.format().corrected(views.charset(edit.charset()), edit.separator(), edit.sheet()),
            views.terms(made, edit),
            principal.getName()),
        prefer);
  }

  private ResponseEntity<ImportView> answer(Import begun, String prefer) {
    var made = desk.await(begun, Requests.wait(prefer));
    var isOver = desk.progress(made.id()).isEmpty();
    return ResponseEntity.status(isOver ? HttpStatus.CREATED : HttpStatus.ACCEPTED)
        .location(URI.create("/api/v1/imports/" + made.id()))
        .body(views.view(made));
  }

  @Allowed(Act.SEE_IMPORTS)
  @GetMapping
  Listing<ImportView> list(
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit) {
    return database.read(
        session ->
            Requests.listing(
                imports.list(session, Requests.cursor(cursor), Requests.limit(limit)),
                views::view));
  }

  @Allowed(Act.SEE_IMPORTS)
  @GetMapping("/{id}")
  ImportView show(@PathVariable long id) {
    return views.view(get(id));
  }

  /**
   * Rows in the order of their lines; unchanged ones are only counted.
   *
   * @param verdict new, changed, left-alone, set-aside or refused
   * @param code of a problem they have, with its heading
   * @param key what their key begins with
   */
  @Allowed(Act.SEE_IMPORTS)
  @GetMapping("/{id}/rows")
  Listing<RowView> rows(
      @PathVariable long id,
      @RequestParam(required = false) String verdict,
      @RequestParam(required = false) String code,
      @RequestParam(required = false) String heading,
      @RequestParam(required = false) String key,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit) {
    get(id);
    return database.read(
        session -> {
          var page =
              imports.rows(
                  session,
                  id,
                  new Imports.Wanted(
                      Requests.word(Verdict.class, verdict, "verdict"), code, heading, key),
                  Requests.cursor(cursor),
                  Requests.limit(limit));
          var known = known(session, page.items());
          return Requests.listing(page, row -> views.view(row, known));
        });
  }

  /** The people these rows may be. */
  private Map<Long, StoredPerson> known(StatelessSession session, List<RowReport> rows) {
    var ids =
        rows.stream()
            .flatMap(row -> row.resembles().keySet().stream())
            .map(PersonId::new)
            .collect(Collectors.toSet());
    return people.all(session, ids).stream()
        .collect(Collectors.toMap(one -> one.person().id().value(), one -> one));
  }

  @Allowed(Act.IMPORT)
  @PutMapping("/{id}/rows/{line}/answer")
  RowView answer(
      @PathVariable long id,
      @PathVariable long line,
      @RequestBody RowAnswer answer,
      Principal principal) {
    var row =
        decisions.answer(
            id, line, Requests.required(answer.answer(), "answer"), principal.getName());
    return views.view(row, database.read(session -> known(session, List.of(row))));
  }

  /** Mends a refused row, or all that are refused for the same text, and checks them at once. */
  @Allowed(Act.IMPORT)
  @PutMapping("/{id}/rows/{line}/mend")
  MendedView mend(
      @PathVariable long id,
      @PathVariable long line,
      @RequestBody MendRequest request,
      Principal principal) {
    return mends.mend(
        id,
        line,
        request.texts() == null ? Map.of() : request.texts(),
        request.alike(),
        principal.getName());
  }

  /** Says once what a code of the file's source means, and checks the rows that hold it. */
  @Allowed(Act.IMPORT)
  @PutMapping("/{id}/codes")
  MendedView means(@PathVariable long id, @RequestBody CodeRequest request, Principal principal) {
    return mends.means(
        id,
        Requests.required(request.attribute(), "attribute"),
        Requests.required(request.code(), "code"),
        Requests.required(request.meaning(), "meaning"),
        principal.getName());
  }

  /** What is wrong with refused rows, by kind, most frequent first. */
  @Allowed(Act.SEE_IMPORTS)
  @GetMapping("/{id}/problems")
  Listing<ProblemKindView> problems(@PathVariable long id) {
    get(id);
    return Listing.whole(
        database.read(session -> imports.problemKinds(session, id, MOST_KINDS)).stream()
            .map(
                kind ->
                    new ProblemKindView(
                        kind.code(), kind.heading(), kind.rows(), Problems.view(kind.example())))
            .toList());
  }

  @Allowed(Act.SEE_IMPORTS)
  @GetMapping("/{id}/missing")
  Listing<MissingView> missing(
      @PathVariable long id,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit) {
    get(id);
    return database.read(
        session -> {
          var page = imports.missing(session, id, cursor, Requests.limit(limit));
          var names =
              people.displayNames(
                  session, page.items().stream().map(Missing::person).collect(Collectors.toSet()));
          return Requests.listing(page, one -> view(one, names.get(one.person())));
        });
  }

  @Allowed(Act.IMPORT)
  @PutMapping("/{id}/missing/{key}")
  MissingView decide(
      @PathVariable long id,
      @PathVariable String key,
      @RequestBody MissingAnswer answer,
      Principal principal) {
    var decision =
        Requests.word(
            Missing.Decision.class, Requests.required(answer.decision(), "decision"), "decision");
    var decided = decisions.decide(id, key, decision, principal.getName());
    return view(
        decided,
        database
            .read(session -> people.get(session, decided.person()))
            .map(stored -> stored.displayName())
            .orElse(null));
  }

  private Import get(long id) {
    return desk.get(id);
  }

  private static MissingView view(Missing missing, String name) {
    return new MissingView(
        missing.key(), missing.person().value(), name, missing.decision().word());
  }
}
