package ebb.api;

/**
 * Something found.
 *
 * @param kind person, unit, application or change-set
 * @param key number or name
 * @param detail what tells it from others of the same name
 */
public record FoundView(String kind, String key, String name, String detail) {}
