package ebb.connectors.file;

import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;

/** What can be wrong with a file as a whole. */
final class Amiss {
  static Refusal empty(String name) {
    return refusal(
        "file-empty",
        "%s is empty.".formatted(name),
        "It does not even have headings.",
        "Export it again; the first line must hold the headings.",
        Where.file(name));
  }

  static Refusal notText(String name, String charset, Long line) {
    return refusal(
        "file-not-text",
        "%s is not text in %s.".formatted(name, charset),
        "It is a file of another kind, or was saved in another encoding.",
        "Save it as CSV, UTF-8; or say in which encoding it is.",
        new Where(name, line, null));
  }

  static Refusal mixed(String name, Mixture mixture) {
    return refusal(
        "file-encodings-mixed",
        "%s is UTF-8, but not in line %d, column %d."
            .formatted(name, mixture.line(), mixture.column()),
        "Read as UTF-8 it names %s; as %s, %s. Either way somebody's name would be wrong."
            .formatted(mixture.asUtf8(), Mixture.WINDOWS.name(), mixture.asWindows()),
        "Correct that line and save the file as UTF-8; or say in which encoding all of it is.",
        Where.line(name, mixture.line()));
  }

  static Refusal notCsv(String name, String detail, long line) {
    return refusal(
        "file-not-csv",
        "%s cannot be read on from line %d: %s".formatted(name, line, detail),
        "A quotation mark is opened and never closed, or a value is longer than any could be.",
        "Correct that line.",
        Where.line(name, line));
  }

  static Refusal cutOff(String name, long line) {
    return refusal(
        "file-cut-off",
        "%s ends in the middle of line %d.".formatted(name, line),
        "It was cut off on its way: nobody knows how many rows are lacking.",
        "Fetch it again; if it is whole, complete the last line and end it with a line end.",
        Where.line(name, line));
  }

  static Refusal tooManyColumns(String name, int columns, int most) {
    return refusal(
        "too-many-columns",
        "%s has %,d columns; up to %d are read.".formatted(name, columns, most),
        "No list of people is so wide: this may be another file, or the wrong separator.",
        "Take out the columns that are not needed.",
        Where.file(name));
  }

  static Refusal archive(String name) {
    return refusal(
        "file-is-archive",
        "%s is an archive, and no workbook.".formatted(name),
        "What is in it cannot be known before it is unpacked.",
        "Unpack it, and bring in the file inside.",
        Where.file(name));
  }

  static Refusal notArchive(String name, String detail) {
    return refusal(
        "bundle-damaged",
        "%s cannot be unpacked: %s".formatted(name, detail),
        "It was cut off on its way, or is locked with a password.",
        "Pack it again, without a password.",
        Where.file(name));
  }

  static Refusal tooManyFiles(String name, int most) {
    return refusal(
        "bundle-too-many-files",
        "%s holds more than %,d files.".formatted(name, most),
        "No list of people has so many pictures; such a file is made to exhaust its reader.",
        "Bring it in in parts.",
        Where.file(name));
  }

  static Refusal nameDoubled(String name, String file) {
    return refusal(
        "bundle-name-doubled",
        "%s holds two files called %s.".formatted(name, file),
        "Folders in it make no odds, so one would overwrite the other.",
        "Leave one of the two out.",
        Where.file(name));
  }

  static Refusal oldWorkbook(String name) {
    return refusal(
        "file-old-workbook",
        "%s is a workbook of the old binary kind.".formatted(name),
        "That format is read by few programs, and not by this one.",
        "Save it as XLSX or CSV.",
        Where.file(name));
  }

  static Refusal swells(String name, long most) {
    return refusal(
        "file-swells",
        "%s grows beyond %,d MB when it is unpacked.".formatted(name, most >> 20),
        "A list of people does not: such a file is made to exhaust whoever opens it.",
        "Do not open it elsewhere either; ask whoever sent it. A large list is better sent as CSV.",
        Where.file(name));
  }

  static Refusal notWorkbook(String name, String detail) {
    return refusal(
        "file-not-workbook",
        "%s cannot be read as a workbook: %s".formatted(name, detail),
        "It is damaged, or was cut off on its way.",
        "Open it where it was made, and save it again.",
        Where.file(name));
  }

  static Refusal noSheet(String name, String sheet, String there) {
    return refusal(
        "sheet-unknown",
        "%s has no sheet %s.".formatted(name, sheet),
        "Its sheets are: %s.".formatted(there),
        "Choose one of them.",
        Where.field("sheet"));
  }

  static Refusal notJson(String name, String detail, long line) {
    return refusal(
        "file-not-json",
        "%s cannot be read on from line %d: %s".formatted(name, line, detail),
        "Each line must be one object of names and values.",
        "Correct that line.",
        Where.line(name, line));
  }

  static Refusal notLdif(String name, String detail, long line) {
    return refusal(
        "file-not-ldif",
        "%s cannot be read on from line %d: %s".formatted(name, line, detail),
        "It breaks the rules of LDIF (RFC 2849).",
        "Export it again.",
        Where.line(name, line));
  }

  static Refusal refersOutside(String name, long line) {
    return refusal(
        "ldif-refers-outside",
        "Line %d of %s takes its value from elsewhere.".formatted(line, name),
        "A file could so make Ebb read what its sender may not see.",
        "Export it with the values in it.",
        Where.line(name, line));
  }

  static Refusal changesOnly(String name, long line) {
    return refusal(
        "ldif-holds-changes",
        "Line %d of %s says what to change, not how things are.".formatted(line, name),
        "Only entries can be compared with what is known.",
        "Export entries.",
        Where.line(name, line));
  }

  private static Refusal refusal(String code, String what, String why, String remedy, Where where) {
    return Refusal.invalid(new Problem(code, what, why, remedy, where));
  }

  private Amiss() {}
}
