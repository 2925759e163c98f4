package ebb.service.imports;

import ebb.api.LinkedFileView;
import ebb.api.LinkedRowView;
import ebb.api.Listing;
import ebb.core.imports.LinkedFile;
import ebb.core.imports.Verdict;
import ebb.core.operator.Act;
import ebb.service.web.Allowed;
import ebb.service.web.Problems;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.imports.LinkedRows;
import java.util.TreeMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What came along with a list of people. */
@RestController
@RequestMapping("/api/v1/imports/{id}/linked")
class LinkedFileController {
  private final Database database;
  private final ImportDesk desk;
  private final LinkedRows rows;

  LinkedFileController(Database database, ImportDesk desk, LinkedRows rows) {
    this.database = database;
    this.desk = desk;
    this.rows = rows;
  }

  /** The linked files of an import, with what was said of their rows. */
  @Allowed(Act.SEE_IMPORTS)
  @GetMapping
  Listing<LinkedFileView> list(@PathVariable long id) {
    desk.get(id);
    return Listing.whole(
        database.read(session -> rows.counts(session, id)).entrySet().stream()
            .map(
                file -> {
                  var counts = new TreeMap<String, Long>();
                  file.getValue().forEach((verdict, count) -> counts.put(verdict.word(), count));
                  return new LinkedFileView(file.getKey().word(), counts);
                })
            .toList());
  }

  /**
   * Rows of one linked file, in the order of their lines.
   *
   * @param file units, groups, memberships or pictures
   * @param verdict new, changed, unchanged, left-alone, set-aside or refused
   */
  @Allowed(Act.SEE_IMPORTS)
  @GetMapping("/{file}")
  Listing<LinkedRowView> rows(
      @PathVariable long id,
      @PathVariable String file,
      @RequestParam(required = false) String verdict,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit) {
    desk.get(id);
    return database.read(
        session ->
            Requests.listing(
                rows.page(
                    session,
                    id,
                    Requests.word(LinkedFile.class, file, "file"),
                    Requests.word(Verdict.class, verdict, "verdict"),
                    Requests.cursor(cursor),
                    Requests.limit(limit)),
                row ->
                    new LinkedRowView(
                        row.line(),
                        row.verdict().word(),
                        row.key(),
                        row.says(),
                        Problems.views(row.problems()))));
  }
}
