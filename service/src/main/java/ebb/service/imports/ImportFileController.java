package ebb.service.imports;

import ebb.core.operator.Act;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.web.Allowed;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

/** Files around imports: what became of each row, rows to be mended elsewhere, and templates. */
@RestController
@RequestMapping("/api/v1/imports")
class ImportFileController {
  private static final MediaType CSV = new MediaType("text", "csv", StandardCharsets.UTF_8);
  private static final MediaType ZIP = new MediaType("application", "zip");
  private static final MediaType WORKBOOK =
      MediaType.parseMediaType("application/vnd.openxmlformats-officedocument.spreadsheetml.sheet");

  private final ImportDesk desk;
  private final ImportFiles files;

  ImportFileController(ImportDesk desk, ImportFiles files) {
    this.desk = desk;
    this.files = files;
  }

  private interface Writing {
    void to(OutputStream out) throws IOException;
  }

  /** What became of each row. */
  @Allowed(Act.SEE_IMPORTS)
  @GetMapping("/{id}/report")
  ResponseEntity<StreamingResponseBody> report(@PathVariable long id) {
    var made = desk.get(id);
    return file("import-%d-report.csv".formatted(id), CSV, out -> files.report(made, out));
  }

  /** The refused rows with their reasons; mended, the file can be brought in as it is. */
  @Allowed(Act.SEE_IMPORTS)
  @GetMapping("/{id}/refused")
  ResponseEntity<StreamingResponseBody> refused(@PathVariable long id) {
    var made = desk.get(id);
    return file("import-%d-refused.csv".formatted(id), CSV, out -> files.refused(made, out));
  }

  /**
   * An empty list to be filled in, with an example row.
   *
   * @param format csv or xlsx; or zip, with files to be linked to it
   */
  @Allowed(Act.SEE_IMPORTS)
  @GetMapping("/template")
  ResponseEntity<StreamingResponseBody> template(
      @RequestParam(defaultValue = "xlsx") String format) {
    var catalogue = desk.catalogue();
    return switch (format) {
      case "csv" -> file("people.csv", CSV, out -> Template.csv(catalogue, out));
      case "zip" -> file("bundle.zip", ZIP, out -> Template.bundle(catalogue, out));
      case "xlsx" -> file("people.xlsx", WORKBOOK, out -> Template.workbook(catalogue, out));
      default ->
          throw Refusal.invalid(
              new Problem(
                  "format-unknown",
                  "There is no template as %s.".formatted(format),
                  "It is made as csv, as xlsx or as zip.",
                  "Use one of those.",
                  Where.field("format")));
    };
  }

  private static ResponseEntity<StreamingResponseBody> file(
      String name, MediaType type, Writing writing) {
    StreamingResponseBody body = writing::to;
    return ResponseEntity.ok()
        .contentType(type)
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.attachment().filename(name).build().toString())
        .body(body);
  }
}
