package ebb.api;

/** Somebody a complete file does not name. */
public record MissingView(String key, long person, String displayName, String decision) {}
