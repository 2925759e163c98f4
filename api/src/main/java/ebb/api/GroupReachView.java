package ebb.api;

/**
 * How far a group reaches, over all applications.
 *
 * @param accounts in it
 * @param inUse those of them that can be used
 * @param people whose they are
 * @param units to which those belong
 */
public record GroupReachView(String name, long accounts, long inUse, long people, long units) {}
