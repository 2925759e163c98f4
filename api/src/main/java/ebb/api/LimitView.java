package ebb.api;

import java.util.List;

/**
 * A limit of the guard.
 *
 * @param of what is counted, as it follows the number
 * @param unit count or share
 * @param usual what holds unless it is set otherwise; a share as a part of one
 * @param value what holds now
 * @param why this number
 * @param exceptions other numbers for single sources or applications
 */
public record LimitView(
    String name,
    String of,
    String unit,
    double usual,
    double value,
    String why,
    List<LimitExceptionView> exceptions) {
  /**
   * @param name of a source or an application
   */
  public record LimitExceptionView(String name, double value) {}
}
