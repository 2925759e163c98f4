package ebb.core.person;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Collection;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.ToIntFunction;
import java.util.stream.Stream;

/** A human, guest or technical identity: what follows from all that the sources assert. */
public record Person(PersonId id, SortedMap<String, Held> attributes) {
  private static final String TECHNICAL = "technical";

  public Person {
    attributes = Collections.unmodifiableSortedMap(new TreeMap<>(attributes));
  }

  /**
   * The person that follows from assertions, in whatever order they are given: the source of the
   * higher rank wins an attribute; among equals the earlier assertion, then the source's name.
   *
   * @param rank rank of a source; higher wins
   */
  public static Person resolve(
      PersonId id, Collection<Assertions> assertions, ToIntFunction<String> rank) {
    var attributes = new TreeMap<String, Held>();
    var stronger =
        Comparator.<Held>comparingInt(held -> rank.applyAsInt(held.source()))
            .thenComparing(Held::since, Comparator.reverseOrder())
            .thenComparing(Held::source, Comparator.reverseOrder());
    for (var bySource : assertions) {
      bySource
          .values()
          .forEach(
              (attribute, asserted) ->
                  attributes.merge(
                      attribute,
                      new Held(asserted.value(), bySource.source(), asserted.since()),
                      (one, other) -> stronger.compare(one, other) >= 0 ? one : other));
    }
    return new Person(id, attributes);
  }

  public Optional<String> get(String attribute) {
    return Optional.ofNullable(attributes.get(attribute)).map(Held::value);
  }

  /** The manager, where the sources name one. */
  public Optional<PersonId> manager() {
    return get(Attributes.MANAGER).map(text -> new PersonId(Long.parseLong(text)));
  }

  /** What people read; empty if no source asserts this person any more. */
  public String displayName() {
    return get(Attributes.DISPLAY_NAME)
        .orElseGet(
            () ->
                (get(Attributes.GIVEN_NAME).orElse("")
                        + " "
                        + get(Attributes.FAMILY_NAME).orElse(""))
                    .strip());
  }

  /** The person's own time zone, or the organisation's. */
  public ZoneId zone(ZoneId organisation) {
    return get(Attributes.TIMEZONE).map(ZoneId::of).orElse(organisation);
  }

  /** The units they are in, the main one first. */
  public List<String> units() {
    return Stream.concat(
            get(Attributes.DEPARTMENT).stream(),
            get(Attributes.FURTHER_UNITS).stream().flatMap(all -> Stream.of(all.split(";"))))
        .map(String::strip)
        .filter(unit -> !unit.isEmpty())
        .distinct()
        .toList();
  }

  /** Whether it is no human being, but something that signs in. */
  public boolean isTechnical() {
    return get(Attributes.USER_TYPE).filter(TECHNICAL::equalsIgnoreCase).isPresent();
  }

  public Stage stage(Instant instant, ZoneId organisation) {
    return stageOn(LocalDate.ofInstant(instant, zone(organisation)));
  }

  private Stage stageOn(LocalDate today) {
    if (attributes.isEmpty()) {
      return Stage.DEPARTED;
    }
    var end = date(Attributes.END_DATE);
    if (end.isPresent() && today.isAfter(end.get())) {
      return Stage.DEPARTED;
    }
    if (date(Attributes.START_DATE).filter(today::isBefore).isPresent()) {
      return Stage.EXPECTED;
    }
    if (isAwayOn(today)) {
      return Stage.AWAY;
    }
    return end.isPresent() ? Stage.LEAVING : Stage.PRESENT;
  }

  private boolean isAwayOn(LocalDate today) {
    var from = date(Attributes.AWAY_FROM);
    var until = date(Attributes.AWAY_UNTIL);
    return from.isPresent()
        && !today.isBefore(from.get())
        && until.filter(today::isAfter).isEmpty();
  }

  /** The date an attribute holds. Dates are checked when they come in, so this never fails. */
  public Optional<LocalDate> date(String attribute) {
    return get(attribute).map(LocalDate::parse);
  }

  /**
   * The instants at which the stage changes, past ones too. Last days are the last day included, so
   * the change comes with the midnight after them.
   */
  public SortedSet<Instant> turningPoints(ZoneId organisation) {
    var zone = zone(organisation);
    var points = new TreeSet<Instant>();
    date(Attributes.START_DATE).ifPresent(d -> points.add(d.atStartOfDay(zone).toInstant()));
    date(Attributes.AWAY_FROM).ifPresent(d -> points.add(d.atStartOfDay(zone).toInstant()));
    date(Attributes.AWAY_UNTIL)
        .ifPresent(d -> points.add(d.plusDays(1).atStartOfDay(zone).toInstant()));
    date(Attributes.END_DATE)
        .ifPresent(d -> points.add(d.plusDays(1).atStartOfDay(zone).toInstant()));
    return points;
  }
}
