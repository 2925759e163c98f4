package ebb.service.imports;

import ebb.api.EditView;
import ebb.api.ImportView;
import ebb.api.MappingEdit;
import ebb.api.MappingView;
import ebb.api.MappingView.ColumnView;
import ebb.api.ProgressView;
import ebb.api.ResemblanceView;
import ebb.api.RowView;
import ebb.core.imports.Format;
import ebb.core.imports.Import;
import ebb.core.imports.Likeness.Resemblance;
import ebb.core.imports.Mapping;
import ebb.core.imports.Mode;
import ebb.core.imports.RowReport;
import ebb.core.imports.Suggestions;
import ebb.core.imports.Terms;
import ebb.core.imports.ValueCheck;
import ebb.core.person.Attribute;
import ebb.core.person.Attributes;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.web.Problems;
import ebb.service.web.Requests;
import ebb.store.people.StoredPerson;
import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** Imports, their rows and their mappings as they are shown and said. */
@Component
final class ImportViews {
  private static final int CERTAIN = 100;

  private final ImportDesk desk;

  ImportViews(ImportDesk desk) {
    this.desk = desk;
  }

  ImportView view(Import made) {
    return new ImportView(
        made.id(),
        made.source(),
        made.file(),
        made.terms().complete(),
        made.terms().mode().word(),
        made.terms().everyone(),
        words(made.format()),
        made.stage().word(),
        Problems.views(made.questions()),
        desk.progress(made.id()).map(ImportViews::view).orElse(null),
        made.counts(),
        made.effects(),
        made.createdBy(),
        made.createdAt());
  }

  /**
   * @param known the people the row may be
   */
  RowView view(RowReport row, Map<Long, StoredPerson> known) {
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
        row.texts(),
        row.values(),
        row.edits().entrySet().stream()
            .map(
                edit ->
                    new EditView(edit.getKey(), edit.getValue().from(), edit.getValue().to(), null))
            .toList(),
        Problems.views(row.problems()),
        row.resembles().entrySet().stream()
            .map(
                like ->
                    known.containsKey(like.getKey())
                        ? resemblance(row, known.get(like.getKey()), like.getValue())
                        : newcomer(name.strip(), like.getKey(), like.getValue()))
            .toList(),
        row.answer());
  }

  /** Somebody the same file brings, who is nobody known yet. */
  private static ResemblanceView newcomer(String name, long person, Resemblance resemblance) {
    return new ResemblanceView(person, name, resemblance.score(), resemblance.reasons(), Map.of());
  }

  private static ResemblanceView resemblance(
      RowReport row, StoredPerson known, Resemblance resemblance) {
    var values = new TreeMap<String, String>();
    row.values()
        .keySet()
        .forEach(
            attribute ->
                known.person().get(attribute).ifPresent(value -> values.put(attribute, value)));
    return new ResemblanceView(
        known.person().id().value(),
        known.displayName(),
        resemblance.score(),
        resemblance.reasons(),
        values);
  }

  /** What the source's mapping says goes before what is suggested. */
  MappingView mapping(ImportDesk.Proposal proposal) {
    var known = proposal.source() == null ? null : proposal.source().mapping();
    var suggested = proposal.suggested();
    var format = proposal.made().format();
    return new MappingView(
        proposal.made().source(),
        known == null ? suggested.key() : known.key(),
        suggested.columns().stream().map(column -> column(column, known)).toList(),
        dateFormat(known, suggested),
        suggested.dateFormats(),
        known == null ? Map.of() : known.computed(),
        known == null ? Map.of() : Map.copyOf(known.tables()),
        format.kind().word(),
        format.charset(),
        format.separator(),
        format.sheet(),
        proposal.sheets());
  }

  private static String dateFormat(Mapping known, Suggestions.Suggested suggested) {
    if (known != null) {
      return known.dateFormat();
    }
    return suggested.dateFormats().size() == 1 ? suggested.dateFormats().getFirst() : null;
  }

  private static ColumnView column(Suggestions.Column column, Mapping known) {
    if (known == null || !isKnown(known, column.heading())) {
      var isSure = column.confidence() >= Suggestions.SURE_ENOUGH;
      var isTaken = known != null && isSure && known.attributes().contains(column.attribute());
      return new ColumnView(
          column.heading(),
          isSure && !isTaken ? column.attribute() : null,
          column.confidence(),
          column.reason(),
          column.examples());
    }
    return new ColumnView(
        column.heading(),
        known.columns().get(column.heading()),
        CERTAIN,
        "as it was confirmed before",
        column.examples());
  }

  private static boolean isKnown(Mapping mapping, String heading) {
    return mapping.columns().containsKey(heading)
        || mapping.ignored().contains(heading)
        || heading.equals(mapping.key());
  }

  /** What was said, and for the rest what is shown. */
  Mapping mapping(ImportDesk.Proposal proposal, MappingEdit edit) {
    var shown = mapping(proposal);
    var key = edit.key() == null ? shown.key() : edit.key();
    var columns = new TreeMap<String, String>();
    if (edit.columns() == null) {
      shown.columns().stream()
          .filter(column -> column.attribute() != null)
          .forEach(column -> columns.put(column.heading(), column.attribute()));
    } else {
      edit.columns()
          .forEach(
              (heading, attribute) -> {
                if (attribute != null && !attribute.isBlank()) {
                  columns.put(heading, attribute);
                }
              });
    }
    var ignored = new TreeSet<>(proposal.headings());
    ignored.removeAll(columns.keySet());
    ignored.removeIf(heading -> heading.equals(key));
    ignored.removeIf(heading -> heading.startsWith(Mapping.OWN_HEADINGS));
    var dateFormat = edit.dateFormat() == null ? shown.dateFormat() : edit.dateFormat();
    if (dateFormat == null && columns.values().stream().anyMatch(this::isDate)) {
      throw Refusal.invalid(datesUnclear(shown.dateFormats()));
    }
    return new Mapping(
        key,
        columns,
        ignored,
        dateFormat,
        new TreeMap<>(edit.computed() == null ? shown.computed() : edit.computed()),
        tables(edit.tables() == null ? shown.tables() : edit.tables()));
  }

  private static SortedMap<String, SortedMap<String, String>> tables(
      Map<String, Map<String, String>> given) {
    var tables = new TreeMap<String, SortedMap<String, String>>();
    given.forEach((attribute, table) -> tables.put(attribute, new TreeMap<>(table)));
    return tables;
  }

  Terms terms(Import made, MappingEdit edit) {
    var old = made.terms();
    var mode = Requests.word(Mode.class, edit.mode(), "mode");
    return new Terms(
        edit.complete() == null ? old.complete() : edit.complete(),
        mode == null ? old.mode() : mode,
        edit.everyone() == null ? old.everyone() : everyone(edit.everyone()));
  }

  private SortedMap<String, String> everyone(Map<String, String> said) {
    var problems = new ArrayList<Problem>();
    var everyone = new TreeMap<String, String>();
    var check = new ValueCheck(desk.catalogue(), "uuuu-MM-dd");
    said.forEach(
        (attribute, text) -> {
          if (text == null || text.isBlank()) {
            return;
          }
          if (desk.catalogue().find(attribute).isEmpty()) {
            throw Refusal.notFound("attribute", attribute, "See the list of attributes.");
          }
          switch (check.of(attribute, text.strip(), Where.field(attribute))) {
            case ValueCheck.Good(var value) -> everyone.put(attribute, value);
            case ValueCheck.Bad(var problem) -> problems.add(problem);
          }
        });
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
    return everyone;
  }

  /** By the one name it is compared by, however it was written; null stays null. */
  String charset(String said) {
    if (said == null) {
      return null;
    }
    if (!isName(said) || !Charset.isSupported(said)) {
      throw Refusal.invalid(
          new Problem(
              "encoding-unknown",
              "%s is no encoding known here.".formatted(said),
              "Text cannot be read without knowing how its letters are written.",
              "Use UTF-8, UTF-16, windows-1252 or another name registered for one.",
              Where.field("charset")));
    }
    return Charset.forName(said).name();
  }

  private static boolean isName(String charset) {
    return charset.matches("[A-Za-z0-9][A-Za-z0-9+.:_-]*");
  }

  private boolean isDate(String attribute) {
    return desk.catalogue()
        .find(attribute)
        .filter(found -> found.type() == Attribute.Type.DATE)
        .isPresent();
  }

  private static Problem datesUnclear(List<String> formats) {
    return formats.isEmpty()
        ? new Problem(
            "dates-mixed",
            "The dates of this file are written in several ways.",
            "No one order of day, month and year fits all of them.",
            "Say how most are written; the others are refused, and can be mended.",
            Where.field("dateFormat"))
        : new Problem(
            "date-order-unclear",
            "The dates of this file can be read in several ways: %s."
                .formatted(String.join(", ", formats)),
            "Every day in it is a month too; a guess would make wrong first and last days.",
            "Say which it is.",
            Where.field("dateFormat"));
  }

  private static ProgressView view(Progress progress) {
    return new ProgressView(
        progress.doing(), progress.done(), progress.of(), progress.secondsLeft());
  }

  private static String words(Format format) {
    return format == null
        ? null
        : Stream.of(
                format.kind().word(),
                format.charset(),
                format.separator() == null ? null : "separated by " + sign(format.separator()),
                format.sheet() == null ? null : "sheet " + format.sheet())
            .filter(word -> word != null)
            .collect(Collectors.joining(", "));
  }

  private static String sign(String separator) {
    return separator.equals("\t") ? "tabs" : separator;
  }
}
