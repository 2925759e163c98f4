package ebb.core.execution;

import ebb.core.application.ObservedAccount;
import ebb.core.change.Change;
import java.util.Optional;

/**
 * A change after its call, to be recorded.
 *
 * @param observed the account as read back; empty where nothing was read
 */
public record Result(Change change, Optional<ObservedAccount> observed) {}
