package ebb.service.push;

import com.fasterxml.jackson.databind.node.ObjectNode;
import de.siegmar.fastcsv.writer.CsvWriter;
import ebb.connectors.feed.Fetched;
import ebb.connectors.feed.Puller;
import ebb.core.feed.Feed;
import ebb.core.feed.Origin;
import ebb.core.feed.Undelivered;
import ebb.core.imports.Import;
import ebb.core.imports.Missing;
import ebb.core.imports.RowReport;
import ebb.core.imports.Verdict;
import ebb.core.problem.Problem;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.imports.Imports;
import ebb.store.push.Resource;
import ebb.store.push.Resources;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Consumer;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/**
 * Makes a delivery of what was pushed and waits. From then on it is read, guarded and released as
 * any other. What the last delivery left open comes along: nobody pushes it again by themselves.
 */
@Component
public final class PushedPuller {
  private static final int AT_ONCE = 500;
  private static final char BYTE_ORDER_MARK = '\uFEFF';
  private static final DateTimeFormatter NAME =
      DateTimeFormatter.ofPattern("'pushed' uuuu-MM-dd HH.mm.ss");

  private final Database database;
  private final BusinessClock clock;
  private final Resources resources;
  private final Imports imports;
  private final PushSources sources;

  PushedPuller(
      Database database,
      BusinessClock clock,
      Resources resources,
      Imports imports,
      PushSources sources) {
    this.database = database;
    this.clock = clock;
    this.resources = resources;
    this.imports = imports;
    this.sources = sources;
  }

  /**
   * One that gets what was pushed to a feed since its mark; without a mark, all there is.
   *
   * @return a puller whose marks are numbers that grow
   */
  public Puller of(Feed feed) {
    return (into, mark) -> fetch(feed, into, mark);
  }

  /** What waits for a delivery since a mark; empty if nothing does. */
  public Optional<Resources.Waiting> waiting(StatelessSession session, String source, String mark) {
    return resources.waiting(session, source, PushSources.mark(mark));
  }

  private Optional<Fetched> fetch(Feed feed, Path into, String mark) throws Undelivered {
    var waiting =
        database.write(
            session -> {
              var found = waiting(session, feed.source(), mark);
              // First of all: whoever gets another key from now on was known under the one before.
              found.ifPresent(all -> resources.take(session, feed.source(), all.last()));
              return found;
            });
    if (waiting.isEmpty()) {
      return Optional.empty();
    }
    var mapping = database.write(session -> sources.mapped(session, feed.source())).mapping();
    var people = into.resolveSibling(into.getFileName() + ".people");
    try {
      var headings = PushedColumns.headings(mapping);
      var since = PushSources.mark(mark);
      var hasPeople = writePeople(feed.source(), since, headings, people);
      var hasGroups = !groupsIn(feed).isEmpty() && hasGroups(feed.source(), since);
      if (hasGroups) {
        pack(feed, since, hasPeople ? people : null, into);
      } else if (hasPeople) {
        Files.copy(people, into, StandardCopyOption.REPLACE_EXISTING);
      } else {
        return Optional.empty();
      }
      var now = clock.instant();
      var name = NAME.format(now.atZone(clock.zone())) + (hasGroups ? ".zip" : ".csv");
      return Optional.of(new Fetched(name, now, Long.toString(waiting.get().last())));
    } catch (IOException | UncheckedIOException e) {
      throw new Undelivered(disk(e), true, e);
    } finally {
      people.toFile().delete();
    }
  }

  private static String groupsIn(Feed feed) {
    return feed.origin().setting(Origin.GROUPS_IN);
  }

  /** Whether there is anybody. */
  private boolean writePeople(String source, long since, List<String> headings, Path to)
      throws IOException {
    var written = new HashSet<String>();
    try (var csv = csv(Files.newOutputStream(to))) {
      csv.writeRecord(headings);
      database.read(
          session -> {
            Consumer<Resource> write =
                person -> {
                  if (written.add(person.id())) {
                    csv.writeRecord(row(session, headings, person));
                  }
                };
            resources.eachAfter(session, source, Resource.Kind.USER, since, write);
            if (since > 0) {
              for (var part : parts(leftOpen(session, source))) {
                resources.ofKeys(session, source, part).forEach(write);
              }
            }
            return null;
          });
    }
    return !written.isEmpty();
  }

  private List<String> row(StatelessSession session, List<String> headings, Resource person) {
    ObjectNode body = PushDesk.body(person);
    return PushedColumns.row(
        headings,
        person,
        body,
        manager ->
            resources
                .get(session, person.source(), Resource.Kind.USER, manager)
                .map(Resource::key)
                .orElse(manager));
  }

  /** Keys whose rows the last delivery had refused or set aside, or about whom nobody decided. */
  private Set<String> leftOpen(StatelessSession session, String source) {
    var keys = new TreeSet<String>();
    for (var made : imports.released(session, source, 1)) {
      for (var verdict : List.of(Verdict.REFUSED, Verdict.SET_ASIDE)) {
        rows(session, made, verdict, keys);
      }
      String last = null;
      do {
        var page = imports.missing(session, made.id(), last, AT_ONCE);
        page.items().stream()
            .filter(one -> one.decision() != Missing.Decision.LEAVER)
            .filter(one -> one.decision() != Missing.Decision.STILL_HERE)
            .map(Missing::key)
            .forEach(keys::add);
        last = page.next();
      } while (last != null);
    }
    return keys;
  }

  private void rows(StatelessSession session, Import made, Verdict verdict, Set<String> keys) {
    var wanted = new Imports.Wanted(verdict, null, null, null);
    String last = null;
    do {
      var page =
          imports.rows(
              session, made.id(), wanted, last == null ? null : Long.valueOf(last), AT_ONCE);
      page.items().stream()
          .filter(row -> row.answer() == null)
          .map(RowReport::key)
          .forEach(keys::add);
      last = page.next();
    } while (last != null);
  }

  private static List<List<String>> parts(Set<String> keys) {
    var all = List.copyOf(keys);
    var parts = new ArrayList<List<String>>();
    for (int from = 0; from < all.size(); from += AT_ONCE) {
      parts.add(all.subList(from, Math.min(from + AT_ONCE, all.size())));
    }
    return parts;
  }

  private boolean hasGroups(String source, long since) {
    var any = new boolean[1];
    database.read(
        session -> {
          resources.eachAfter(session, source, Resource.Kind.GROUP, since, _ -> any[0] = true);
          return null;
        });
    return any[0];
  }

  /** A bundle: all groups, as a later list replaces the one before; and what changed in them. */
  private void pack(Feed feed, long since, Path people, Path into) throws IOException {
    try (var zip = new ZipOutputStream(Files.newOutputStream(into), StandardCharsets.UTF_8)) {
      if (people != null) {
        zip.putNextEntry(new ZipEntry("people.csv"));
        Files.copy(people, zip);
      }
      zip.putNextEntry(new ZipEntry("groups.csv"));
      var groups = csv(zip);
      groups.writeRecord("group", "application", "name");
      database.read(
          session -> {
            resources.eachAfter(
                session,
                feed.source(),
                Resource.Kind.GROUP,
                0,
                group -> groups.writeRecord(group.id(), groupsIn(feed), group.key()));
            return null;
          });
      groups.flush();
      zip.putNextEntry(new ZipEntry("memberships.csv"));
      var memberships = csv(zip);
      memberships.writeRecord("person", "group", "gone");
      database.read(
          session -> {
            resources.eachMembershipAfter(
                session,
                feed.source(),
                since,
                one -> memberships.writeRecord(one.key(), one.group(), one.gone() ? "yes" : ""));
            return null;
          });
      memberships.flush();
    }
  }

  /** Said to be UTF-8, so that it is never read as anything else. */
  private static CsvWriter csv(OutputStream to) throws IOException {
    var text = new OutputStreamWriter(to, StandardCharsets.UTF_8);
    text.write(BYTE_ORDER_MARK);
    return CsvWriter.builder().build(text);
  }

  private static Problem disk(Exception e) {
    return new Problem(
        "feed-disk",
        "The delivery cannot be kept.",
        String.valueOf(e.getMessage()),
        "Look whether the disk of the service is full.",
        null);
  }
}
