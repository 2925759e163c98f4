package ebb.connectors.file;

import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldif.LDIFException;
import com.unboundid.ldif.LDIFReader;
import ebb.core.imports.Row;
import ebb.core.imports.Rows;
import java.io.BufferedReader;
import java.io.Closeable;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.SequencedMap;

/**
 * Entries of a directory (LDIF, RFC 2849), read as a stream; the name of each under "dn". Several
 * values of one attribute stand in one cell, with semicolons between.
 */
final class LdifRows implements Rows {
  private static final String DN = "dn";

  private final String name;
  private final LDIFReader reader;
  private final LogicalLines lines;
  private final SequencedMap<String, String> headings;

  private LdifRows(
      String name, LDIFReader reader, LogicalLines lines, SequencedMap<String, String> headings) {
    this.name = name;
    this.reader = reader;
    this.lines = lines;
    this.headings = headings;
  }

  /** Reads it once for its attributes, which any entry may add to, and opens it again. */
  static LdifRows open(Path file, String name) throws IOException {
    var headings = headings(file, name);
    return new LdifRows(name, new LDIFReader(file.toFile()), LogicalLines.of(file), headings);
  }

  @Override
  public List<String> headings() {
    return List.copyOf(headings.values());
  }

  @Override
  public Optional<Row> next() {
    try {
      var entry = reader.readEntry();
      return entry == null ? Optional.empty() : Optional.of(row(entry));
    } catch (LDIFException e) {
      throw Amiss.notLdif(name, e.getMessage(), e.getLineNumber());
    } catch (IOException e) {
      throw Amiss.notLdif(name, String.valueOf(e.getMessage()), 0);
    }
  }

  @Override
  public void close() throws IOException {
    reader.close();
    lines.close();
  }

  /** The library does not say in which line an entry begins. */
  private Row row(Entry entry) throws IOException {
    for (var line = lines.next(); line != null && !isName(line); ) {
      line = lines.next();
    }
    return new Row(
        lines.number,
        headings.keySet().stream()
            .map(heading -> heading.equals(DN) ? entry.getDN() : text(entry.getAttribute(heading)))
            .toList());
  }

  private static boolean isName(String line) {
    return line.regionMatches(true, 0, DN + ":", 0, DN.length() + 1);
  }

  private static String text(Attribute attribute) {
    return attribute == null ? "" : String.join("; ", attribute.getValues());
  }

  /**
   * By their names in lower case, as they are first written. Values by reference and records of
   * changes are refused before the library meets them.
   */
  private static SequencedMap<String, String> headings(Path file, String name) throws IOException {
    var headings = new LinkedHashMap<String, String>(Map.of(DN, DN));
    try (var logical = LogicalLines.of(file)) {
      for (var line = logical.next(); line != null; line = logical.next()) {
        var colon = line.indexOf(':');
        if (colon <= 0 || line.startsWith("#")) {
          continue;
        }
        if (line.startsWith("<", colon + 1)) {
          throw Amiss.refersOutside(name, logical.number);
        }
        var heading = line.substring(0, colon);
        switch (heading.toLowerCase(Locale.ROOT)) {
          case "version" -> {}
          case "changetype" -> throw Amiss.changesOnly(name, logical.number);
          default -> headings.putIfAbsent(heading.toLowerCase(Locale.ROOT), heading);
        }
        if (headings.size() > Headings.MOST) {
          throw Amiss.tooManyColumns(name, headings.size(), Headings.MOST);
        }
      }
    }
    if (headings.size() == 1) {
      throw Amiss.empty(name);
    }
    return headings;
  }

  /** A line that begins with a space goes on with the one before (RFC 2849, note 2). */
  private static final class LogicalLines implements Closeable {
    private final BufferedReader lines;
    private String ahead;
    private long read;
    private long number;

    private LogicalLines(BufferedReader lines) {
      this.lines = lines;
    }

    static LogicalLines of(Path file) throws IOException {
      var logical = new LogicalLines(Files.newBufferedReader(file, StandardCharsets.UTF_8));
      logical.advance();
      return logical;
    }

    @Override
    public void close() throws IOException {
      lines.close();
    }

    /** Null at the end. */
    String next() throws IOException {
      if (ahead == null) {
        return null;
      }
      number = read;
      var line = new StringBuilder(ahead);
      for (advance(); ahead != null && ahead.startsWith(" "); advance()) {
        // Only what stands before and just behind the colon is looked at here.
        if (line.length() < 1_000) {
          line.append(ahead, 1, ahead.length());
        }
      }
      return line.toString();
    }

    private void advance() throws IOException {
      ahead = lines.readLine();
      read++;
    }
  }
}
