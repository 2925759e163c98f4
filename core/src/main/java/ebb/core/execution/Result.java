package ebb.core.execution;

import ebb.core.application.ObservedAccount;
import ebb.core.application.Wire.Exchange;
import ebb.core.change.Change;
import java.util.List;
import java.util.Optional;

/**
 * A change after its call, to be recorded.
 *
 * @param observed the account as read back; empty where nothing was read
 * @param exchanges what went over the wire, in order; empty where nothing was sent
 */
public record Result(Change change, Optional<ObservedAccount> observed, List<Exchange> exchanges) {
  public Result(Change change, Optional<ObservedAccount> observed) {
    this(change, observed, List.of());
  }
}
