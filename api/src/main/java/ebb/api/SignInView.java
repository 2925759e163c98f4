package ebb.api;

import java.time.Instant;

/**
 * When an account was last used, as its application says now.
 *
 * @param signedInAt by its owner; null if never, or not known
 * @param usedAt when something was last done with it, by its owner or not; null if never
 * @param known whether the application can say
 */
public record SignInView(
    String application, String name, Instant signedInAt, Instant usedAt, boolean known) {}
