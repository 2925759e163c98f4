package ebb.core.imports;

/**
 * A run of lines of a file.
 *
 * @param from the first, from 1
 * @param to the first after them; {@link Long#MAX_VALUE} where they go on to the end
 */
public record Lines(long from, long to) {}
