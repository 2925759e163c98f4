package ebb.api;

import java.util.Map;

/**
 * A file that came along with a list of people.
 *
 * @param file units, groups, memberships or pictures
 * @param counts rows by verdict; memberships and pictures that are as they were are not counted
 */
public record LinkedFileView(String file, Map<String, Long> counts) {}
