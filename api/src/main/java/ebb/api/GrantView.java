package ebb.api;

import java.time.LocalDate;

/** A group given by hand. */
public record GrantView(
    long id, String application, String group, String reason, LocalDate from, LocalDate until) {}
