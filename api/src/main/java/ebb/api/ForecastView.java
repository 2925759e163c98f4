package ebb.api;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;

/**
 * What dates alone will bring, day by day; days on which nothing happens are left out.
 *
 * @param zone in which the days are
 * @param seats what will change in how many are taken
 * @param amiss applications in which something will happen and that would not take it as they are
 *     now
 */
public record ForecastView(
    LocalDate from,
    LocalDate until,
    String zone,
    List<DayView> days,
    List<SeatsAheadView> seats,
    List<AmissView> amiss) {
  /**
   * @param people how many it concerns
   * @param costs by how much more or less all seats cost a month from that day on; empty where no
   *     price is known
   */
  public record DayView(
      LocalDate day, long people, List<DayCountView> counts, List<PriceView> costs) {}

  /**
   * @param checkedAt when that was seen; every few minutes it is looked at anew, what may be
   *     written included
   */
  public record AmissView(String application, ProblemView problem, Instant checkedAt) {}

  /** How many steps of a kind there are in an application. */
  public record DayCountView(String application, String kind, long count) {}

  /**
   * @param more how many will be taken
   * @param fewer how many will be freed; those of suspended accounts are not, before their closing
   */
  public record SeatsAheadView(String application, String seat, long more, long fewer) {}
}
