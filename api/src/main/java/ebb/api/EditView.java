package ebb.api;

/** One attribute before and after. */
public record EditView(String attribute, String before, String after, String ground) {}
