package ebb.service.notices;

import ebb.core.notice.Notice;
import ebb.core.operator.Act;
import ebb.store.notices.Notices;
import ebb.store.operators.Operator;
import ebb.store.operators.Operators;
import java.time.Duration;
import java.time.Instant;
import java.util.Objects;
import org.hibernate.StatelessSession;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/** Tells operators what is done that they did not wait for, and what needs them. */
@Component
public final class OperatorNotices {
  private final Notices notices;
  private final Operators operators;
  private final Addresses addresses;
  private final Duration worthTelling;

  OperatorNotices(
      Notices notices,
      Operators operators,
      Addresses addresses,
      @Value("${ebb.tell-of-work-longer-than}") Duration worthTelling) {
    this.notices = notices;
    this.operators = operators;
    this.addresses = addresses;
    this.worthTelling = worthTelling;
  }

  /**
   * Tells an operator, if it took so long that nobody waits; not where it is not known whom among
   * the people the operator is, as there is no address then.
   *
   * @param about the page of the console that shows it
   */
  public void done(
      StatelessSession session,
      String operator,
      Duration took,
      String subject,
      String about,
      Instant at) {
    if (took.compareTo(worthTelling) > 0) {
      operators
          .get(session, operator)
          .map(Operator::person)
          .ifPresent(
              person ->
                  addresses
                      .atWork(session, person)
                      .ifPresent(
                          to ->
                              notices.add(
                                  session, person, Notice.Kind.DONE, to, subject, about, at)));
    }
  }

  /** Tells all operators who look after settings that something stands still. */
  public void needed(StatelessSession session, String subject, String about, Instant at) {
    operators.list(session).stream()
        .filter(operator -> Act.EDIT_SETTINGS.roles().contains(operator.role()))
        .map(Operator::person)
        .filter(Objects::nonNull)
        .forEach(
            person ->
                addresses
                    .atWork(session, person)
                    .ifPresent(
                        to ->
                            notices.add(
                                session, person, Notice.Kind.NEEDED, to, subject, about, at)));
  }
}
