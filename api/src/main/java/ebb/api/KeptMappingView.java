package ebb.api;

import java.time.Instant;

/** How the columns of a source were read at one version of its mapping, and who said so. */
public record KeptMappingView(SourceView mapping, String by, Instant at) {}
