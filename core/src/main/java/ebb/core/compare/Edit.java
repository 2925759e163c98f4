package ebb.core.compare;

import ebb.core.application.Value;
import java.util.List;

/** One attribute, what it holds and what it should hold, and why. */
public record Edit(List<String> before, Value after, String ground) {}
