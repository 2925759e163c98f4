package ebb.service.imports;

import de.siegmar.fastcsv.writer.CsvWriter;
import ebb.core.imports.LinkedFile;
import ebb.core.imports.Suggestions;
import ebb.core.person.Attribute;
import ebb.core.person.Catalogue;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.nio.charset.StandardCharsets;
import java.util.Comparator;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.dhatim.fastexcel.Workbook;

/** An empty list to be filled in: every attribute there is, and how each is written. */
final class Template {
  /** Marks headings of columns that must be filled in; it makes no odds when they are read. */
  private static final String COMPULSORY = " *";

  static void csv(Catalogue catalogue, OutputStream to) throws IOException {
    try (var csv = CsvWriter.builder().build(new OutputStreamWriter(to, StandardCharsets.UTF_8))) {
      csv.writeRecord(columns(catalogue).stream().map(Template::heading).toList());
      csv.writeRecord(columns(catalogue).stream().map(Template::example).toList());
    }
  }

  /** The list of people, and beside it headings of each table that can be linked to it. */
  static void bundle(Catalogue catalogue, OutputStream to) throws IOException {
    try (var zip = new ZipOutputStream(to)) {
      zip.putNextEntry(new ZipEntry("people.csv"));
      var people = new ByteArrayOutputStream();
      csv(catalogue, people);
      people.writeTo(zip);
      for (var file : LinkedFile.values()) {
        if (!file.required().isEmpty()) {
          zip.putNextEntry(new ZipEntry(file.word() + ".csv"));
          zip.write((String.join(",", file.columns()) + "\r\n").getBytes(StandardCharsets.UTF_8));
        }
      }
    }
  }

  static void workbook(Catalogue catalogue, OutputStream to) throws IOException {
    try (var workbook = new Workbook(to, "Ebb", "1.0")) {
      var sheet = workbook.newWorksheet("People");
      var columns = columns(catalogue);
      for (int i = 0; i < columns.size(); i++) {
        var attribute = columns.get(i);
        sheet.value(0, i, heading(attribute));
        sheet.comment(0, i, note(attribute));
        sheet.style(0, i).bold().set();
        sheet.value(1, i, example(attribute));
        // As text: a spreadsheet takes zeros away from numbers, and turns dates round.
        sheet.range(1, i, 5_000, i).style().format("@").set();
        sheet.width(i, 18);
        if (!attribute.choices().isEmpty()) {
          sheet
              .range(1, i, 5_000, i)
              .validateWithListByFormula("\"" + String.join(",", attribute.choices()) + "\"");
        }
      }
      sheet.freezePane(0, 1);
      var notes = workbook.newWorksheet("How it is filled in");
      for (int i = 0; i < columns.size(); i++) {
        notes.value(i, 0, heading(columns.get(i)));
        notes.value(i, 1, note(columns.get(i)));
      }
      notes.width(0, 24);
      notes.width(1, 90);
    }
  }

  /** The staff number first: by it each person is found again. */
  private static List<Attribute> columns(Catalogue catalogue) {
    return catalogue.all().stream()
        .sorted(
            Comparator.comparing(attribute -> !attribute.name().equals(Suggestions.KEY_ATTRIBUTE)))
        .toList();
  }

  private static String heading(Attribute attribute) {
    var isKey = attribute.name().equals(Suggestions.KEY_ATTRIBUTE);
    return Suggestions.label(attribute.name()) + (attribute.required() || isKey ? COMPULSORY : "");
  }

  private static String example(Attribute attribute) {
    return switch (attribute.type()) {
      case DATE -> "2027-03-01";
      case NUMBER -> "12";
      case YES_NO -> "yes";
      case CHOICE -> attribute.choices().getFirst();
      case EMAIL -> "ida.holm@post.example";
      case PHONE -> "+99 555 0100";
      case ZONE -> "Europe/Oslo";
      case PERSON -> "";
      case TEXT ->
          attribute.name().equals(Suggestions.KEY_ATTRIBUTE)
              ? Suggestions.EXAMPLE_KEY
              : attribute.required() ? "Example" : "";
    };
  }

  private static String note(Attribute attribute) {
    var how =
        switch (attribute.type()) {
          case DATE -> "A date, written 2027-03-01.";
          case NUMBER -> "A number.";
          case YES_NO -> "yes or no.";
          case CHOICE -> "One of: %s.".formatted(String.join(", ", attribute.choices()));
          case EMAIL -> "A mail address.";
          case PHONE -> "A telephone number, with its country's.";
          case ZONE -> "A time zone as in Europe/Oslo.";
          case PERSON -> "The staff number of another person, in this list or known already.";
          case TEXT -> "Text.";
        };
    return attribute.name().equals(Suggestions.KEY_ATTRIBUTE)
        ? "Compulsory. The number that stays the same for a person for ever; delete the row with the example."
        : (attribute.required() ? "Compulsory. " : "May be empty. ") + how;
  }

  private Template() {}
}
