package ebb.api;

/**
 * What differs.
 *
 * @param what an attribute, or in words
 * @param here what it should be
 * @param there what it is in the application
 * @param times how often it came back after it had been as it should be
 */
public record DifferenceView(String what, String here, String there, int times) {}
