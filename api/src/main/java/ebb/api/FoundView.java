package ebb.api;

/**
 * Something found.
 *
 * @param kind person, unit, application or change-set
 * @param key number or name
 * @param detail what tells it from others of the same name
 * @param off whether it is a person to whom nothing new should go: suspended, on leave or departed
 */
public record FoundView(String kind, String key, String name, String detail, boolean off) {}
