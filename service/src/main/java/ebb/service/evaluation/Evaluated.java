package ebb.service.evaluation;

import ebb.core.change.Needs.Draft;
import ebb.core.person.Assertions;
import ebb.core.person.PersonId;
import ebb.core.person.Stage;
import ebb.core.rule.Desired;
import ebb.core.rule.Subject;
import ebb.store.applications.Account;
import ebb.store.people.People.Resolved;
import java.time.Instant;
import java.util.List;
import java.util.SortedSet;

/**
 * A person computed.
 *
 * @param assertions what each source asserts, proposed inputs included
 * @param accounts all that exist
 * @param drafts the steps that remove the differences
 * @param reads whom the computation read
 * @param wakesAt the next instant at which something changes by itself; null if none
 */
public record Evaluated(
    Subject subject,
    Stage stage,
    List<Assertions> assertions,
    List<Account> accounts,
    Desired desired,
    List<Draft> drafts,
    SortedSet<PersonId> reads,
    Instant wakesAt) {
  /** What is kept of them. */
  public Resolved resolved() {
    return new Resolved(subject.person(), subject.login(), wakesAt, desired.unclear());
  }
}
