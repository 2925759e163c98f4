package ebb.api;

/**
 * Another number for a limit.
 *
 * @param value a share as a part of one; null for the usual one
 * @param of a source or an application; null for all
 * @param reason goes into the journal
 */
public record LimitEdit(Double value, String of, String reason) {}
