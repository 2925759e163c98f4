package ebb.core.execution;

import ebb.core.application.Capabilities;
import ebb.core.application.Connector;
import ebb.core.application.Inspection;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Reading;
import ebb.core.application.Sightings;
import java.util.Optional;

/** Does what a test says it does; nothing else is asked of it. */
interface NarrowConnector extends Connector {
  @Override
  default Capabilities capabilities() {
    return Capabilities.UNKNOWN;
  }

  @Override
  default Inspection inspect() {
    throw new AssertionError("Not asked here");
  }

  @Override
  default Reading read(String since, Sightings to) {
    throw new AssertionError("Not asked here");
  }

  @Override
  default Optional<ObservedAccount> findByExternalId(String externalId) {
    return Optional.empty();
  }

  @Override
  default Outcome apply(Instruction instruction) {
    throw new AssertionError("Not asked here: " + instruction);
  }

  @Override
  default void close() {}
}
