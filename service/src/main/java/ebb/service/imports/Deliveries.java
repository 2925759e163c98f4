package ebb.service.imports;

import ebb.api.ImportView;
import ebb.core.imports.Import;
import ebb.core.imports.Missing;
import ebb.core.imports.Stage;
import ebb.core.imports.Terms;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.service.changes.Proposals;
import ebb.service.imports.ImportDesk.Said;
import ebb.store.Database;
import ebb.store.imports.Imports;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import org.springframework.stereotype.Component;

/** Takes in what feeds bring: as any file, with nobody there to ask. */
@Component
public final class Deliveries {
  /** A million rows take a minute; beyond this something hangs, and the next look finds it. */
  private static final Duration LONGEST = Duration.ofHours(2);

  private static final int MISSING_AT_ONCE = 500;

  private final Database database;
  private final Imports imports;
  private final ImportDesk desk;
  private final Uploads uploads;
  private final Decisions decisions;
  private final Proposals proposals;
  private final ImportViews views;

  Deliveries(
      Database database,
      Imports imports,
      ImportDesk desk,
      Uploads uploads,
      Decisions decisions,
      Proposals proposals,
      ImportViews views) {
    this.database = database;
    this.imports = imports;
    this.desk = desk;
    this.uploads = uploads;
    this.decisions = decisions;
    this.proposals = proposals;
    this.views = views;
  }

  /** A file that a feed brought. */
  public record Delivery(
      String source, Path file, String name, Instant writtenAt, boolean complete) {}

  /**
   * Begins to read a delivery. The file itself stays where it is.
   *
   * @param by who releases it; what feeds bring by themselves may release itself
   * @throws Refusal if it is no table
   */
  public Import take(Delivery delivery, String by) throws IOException {
    var said =
        new Said(
            delivery.name(),
            delivery.source(),
            Terms.usual(delivery.complete()),
            null,
            null,
            null,
            delivery.writtenAt(),
            true);
    try (var in = Files.newInputStream(delivery.file());
        var upload = uploads.keep(in, delivery.name())) {
      return desk.add(upload, said, by);
    }
  }

  /**
   * Waits until an import is shown, or waits itself for an answer.
   *
   * @throws Refusal if the file as a whole cannot be taken
   */
  public Import await(Import made) {
    return desk.await(made, LONGEST);
  }

  /** Decides about everybody whom a delivery does not name. */
  public void decide(Import made, Missing.Decision decision, String by) {
    if (decision == Missing.Decision.UNDECIDED || made.stage() != Stage.SHOWN) {
      return;
    }
    String last = null;
    do {
      var after = last;
      var page =
          database.read(session -> imports.missing(session, made.id(), after, MISSING_AT_ONCE));
      page.items().forEach(missing -> decisions.decide(made.id(), missing.key(), decision, by));
      last = page.next();
    } while (last != null);
  }

  /**
   * As it is shown to operators.
   *
   * @param expected how many rows somebody expects; another number stops what follows from it. Null
   *     where nobody said
   */
  public ImportView view(Import made, Long expected) {
    if (expected != null && made.effects() != null && made.rows() != expected) {
      proposals.stop(made.changeSet(), notAsExpected(made, expected));
    }
    return views.view(made);
  }

  private static Problem notAsExpected(Import made, long expected) {
    return new Problem(
        "guard-not-as-expected",
        "%,d rows were found, and %,d expected.".formatted(made.rows(), expected),
        "The list is another than was thought.",
        "Look who is in it, or not. If it is right, release it with a reason to let it pass.",
        null);
  }
}
