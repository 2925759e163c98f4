package ebb.api;

import java.time.LocalDate;

/**
 * A step of a departure, for all its accounts together.
 *
 * @param name last day, off, ways in, reply, return, stock, handover, references, waiting, restore
 *     or removal
 * @param state done, under way, waits (it needs somebody) or ahead
 * @param day when it is due, or was; null where it comes as soon as it can
 */
public record DepartureStepView(String name, String state, LocalDate day, String words) {}
