package ebb.store.people;

import ebb.core.person.Person;

/**
 * A person as kept.
 *
 * @param displayName as lists show it; outlives the assertions
 * @param login null if none was allocated yet
 * @param version the ETag; grows with every write
 */
public record StoredPerson(Person person, String displayName, String login, long version) {}
