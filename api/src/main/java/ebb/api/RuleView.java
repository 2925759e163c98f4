package ebb.api;

import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Who gets an account in an application, and how it is filled.
 *
 * @param sentence the condition as it is read aloud; not looked at where a rule is sent
 * @param seats the first whose condition holds is taken
 * @param from the day from which it gives; null for always
 * @param until the last day on which it gives; null for no end
 * @param byItself how many people a day it may change with nobody's release, where a feed or a date
 *     brings it about: 0 for nobody; null for no limit of its own
 * @param notes where other rules fill the same, and which of them wins; not looked at where a rule
 *     is sent
 * @param waitsIn the change set with which an edit of it waits; null if none does
 */
public record RuleView(
    String name,
    long version,
    String application,
    String condition,
    String sentence,
    Map<String, String> values,
    Map<String, String> references,
    Set<String> groups,
    List<SeatChoiceView> seats,
    int leadDays,
    BoundView from,
    BoundView until,
    Integer byItself,
    List<String> notes,
    Long waitsIn) {
  /**
   * @param condition CEL over person; null for everyone of the rule
   */
  public record SeatChoiceView(String seat, String condition) {}

  /**
   * A day of the calendar, or a date of the person and so many days after it.
   *
   * @param attribute as startDate; null where it is a day
   * @param day null where it is a date of the person
   * @param days after that; below 0 before it
   */
  public record BoundView(String attribute, LocalDate day, int days) {}
}
