package ebb.service.imports;

import ebb.api.ImportView;
import ebb.api.Listing;
import ebb.api.MissingAnswer;
import ebb.api.MissingView;
import ebb.api.RowAnswer;
import ebb.api.RowView;
import ebb.core.imports.Import;
import ebb.core.imports.Missing;
import ebb.core.imports.RowReport;
import ebb.core.imports.Verdict;
import ebb.core.person.Attributes;
import ebb.core.problem.Refusal;
import ebb.service.web.Problems;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.imports.Imports;
import ebb.store.people.People;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.net.URI;
import java.security.Principal;
import java.util.stream.Collectors;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/imports")
class ImportController {
  private final Database database;
  private final Imports imports;
  private final People people;
  private final FileImports files;
  private final Uploads uploads;
  private final Decisions decisions;

  ImportController(
      Database database,
      Imports imports,
      People people,
      FileImports files,
      Uploads uploads,
      Decisions decisions) {
    this.database = database;
    this.imports = imports;
    this.people = people;
    this.files = files;
    this.uploads = uploads;
    this.decisions = decisions;
  }

  /**
   * Brings a file in and shows what it would do. The body is the file itself.
   *
   * @param complete whether people it does not name are missing
   */
  @PostMapping(consumes = "text/csv")
  ResponseEntity<ImportView> bring(
      @RequestParam String source,
      @RequestParam String file,
      @RequestParam(defaultValue = "false") boolean complete,
      HttpServletRequest request,
      Principal principal)
      throws IOException {
    try (var upload = uploads.keep(request.getInputStream(), file)) {
      var made =
          files.bring(source, file, upload.path(), upload.sha256(), complete, principal.getName());
      return ResponseEntity.created(URI.create("/api/v1/imports/" + made.id())).body(view(made));
    }
  }

  @GetMapping
  Listing<ImportView> list(
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit) {
    return database.read(
        session ->
            Requests.listing(
                imports.list(session, Requests.cursor(cursor), Requests.limit(limit)),
                ImportController::view));
  }

  @GetMapping("/{id}")
  ImportView show(@PathVariable long id) {
    return view(get(id));
  }

  /**
   * Rows in the order of their lines; unchanged ones are only counted.
   *
   * @param verdict new, changed, set-aside or refused
   */
  @GetMapping("/{id}/rows")
  Listing<RowView> rows(
      @PathVariable long id,
      @RequestParam(required = false) String verdict,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit) {
    get(id);
    return database.read(
        session ->
            Requests.listing(
                imports.rows(
                    session,
                    id,
                    Requests.word(Verdict.class, verdict, "verdict"),
                    Requests.cursor(cursor),
                    Requests.limit(limit)),
                ImportController::view));
  }

  @PutMapping("/{id}/rows/{line}/answer")
  RowView answer(
      @PathVariable long id,
      @PathVariable long line,
      @RequestBody RowAnswer answer,
      Principal principal) {
    return view(
        decisions.answer(
            id, line, Requests.required(answer.answer(), "answer"), principal.getName()));
  }

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
    return database
        .read(session -> imports.get(session, id))
        .orElseThrow(() -> Refusal.notFound("import", id, "See: ebb imports list"));
  }

  private static ImportView view(Import made) {
    return new ImportView(
        made.id(),
        made.source(),
        made.file(),
        made.complete(),
        made.stage().word(),
        made.counts(),
        made.changeSet(),
        made.createdBy(),
        made.createdAt());
  }

  private static RowView view(RowReport row) {
    var name =
        row.values().getOrDefault(Attributes.GIVEN_NAME, "")
            + " "
            + row.values().getOrDefault(Attributes.FAMILY_NAME, "");
    return new RowView(
        row.line(),
        row.verdict().word(),
        row.key(),
        row.person() == null ? null : row.person().value(),
        name.strip(),
        Problems.views(row.problems()),
        row.resembles(),
        row.answer());
  }

  private static MissingView view(Missing missing, String name) {
    return new MissingView(
        missing.key(), missing.person().value(), name, missing.decision().word());
  }
}
