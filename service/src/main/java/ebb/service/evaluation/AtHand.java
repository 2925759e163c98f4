package ebb.service.evaluation;

import ebb.core.change.Input;
import ebb.core.person.PersonId;
import ebb.store.people.AssertionCache;
import java.util.List;
import java.util.NavigableMap;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * What somebody has who gathered a set a moment ago, so that it is not read again to compute it.
 *
 * @param assertions what was said of people before
 * @param inputs all inputs of the set by whom they concern; empty where they are too many to hold
 */
public record AtHand(
    AssertionCache assertions, Optional<NavigableMap<PersonId, List<Input>>> inputs) {
  Stream<Input> inputsOf(PersonId person) {
    return inputs.stream().flatMap(all -> all.getOrDefault(person, List.of()).stream());
  }
}
