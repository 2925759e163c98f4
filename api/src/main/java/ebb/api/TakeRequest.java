package ebb.api;

import java.util.Set;

/**
 * Which values of an account are to be the person's.
 *
 * @param attributes as rules call them
 */
public record TakeRequest(Set<String> attributes) {}
