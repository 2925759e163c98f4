package ebb.core.execution;

import ebb.core.problem.Problem;
import java.time.Instant;

/**
 * How the work on one application goes.
 *
 * @param restsUntil in the past if it does not rest
 * @param why it rests, or rested last and is not known to be well; null otherwise
 * @param underWay changes that were claimed and are not recorded yet
 * @param atOnce how many calls it is given now
 * @param secondsEach how long a change took lately, many being carried out at once; 0 if unknown
 */
public record Standing(
    Instant restsUntil, Problem why, int underWay, int atOnce, double secondsEach) {}
