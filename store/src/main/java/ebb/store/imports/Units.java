package ebb.store.imports;

import ebb.core.imports.LinkedFile;
import ebb.core.imports.Source;
import ebb.core.unit.UnitTree;
import ebb.store.people.Sources;
import java.util.Comparator;
import java.util.Optional;
import org.hibernate.StatelessSession;

/** The tree of units, as all sources know it; where they differ, the one of the higher rank. */
public final class Units {
  private final LinkedRows rows;
  private final Imports imports;
  private final Sources sources;

  public Units(LinkedRows rows, Imports imports, Sources sources) {
    this.rows = rows;
    this.imports = imports;
    this.sources = sources;
  }

  /**
   * As it will be once a set is released.
   *
   * @param set null for none
   */
  public UnitTree tree(StatelessSession session, Long set) {
    var now = tree(session);
    return Optional.ofNullable(set)
        .flatMap(id -> imports.ofSet(session, id))
        .map(made -> UnitTree.of(rows.said(session, made, LinkedFile.UNITS)).or(now))
        .orElse(now);
  }

  public UnitTree tree(StatelessSession session) {
    return sources.list(session).stream()
        .sorted(Comparator.comparing(Source::rank).reversed().thenComparing(Source::name))
        .map(source -> UnitTree.of(rows.known(session, source.name(), LinkedFile.UNITS)))
        .reduce(UnitTree.EMPTY, UnitTree::or);
  }
}
