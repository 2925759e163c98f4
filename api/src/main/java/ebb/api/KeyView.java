package ebb.api;

/** A key by which a source knows a person. */
public record KeyView(String source, String key) {}
