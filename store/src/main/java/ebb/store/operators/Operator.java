package ebb.store.operators;

import ebb.core.operator.Caller;
import ebb.core.operator.Reach;
import ebb.core.operator.Role;
import ebb.core.person.PersonId;
import java.time.Instant;

/**
 * A person who works with Ebb.
 *
 * @param person whom the operator is among the people; null if that is not known
 * @param discreet whether discreet cases are open to them
 * @param passwordHash null until a password is chosen
 * @param secondFactor the sealed secret of the second factor; null while there is none
 * @param secondFactorAsked the sealed secret that was shown and not confirmed yet
 * @param lastCode the time step of the last code taken, so that none is taken twice; null if none
 * @param endedAt null while the operator may work
 */
public record Operator(
    String name,
    Role role,
    Reach reach,
    PersonId person,
    boolean discreet,
    String passwordHash,
    String secondFactor,
    String secondFactorAsked,
    Long lastCode,
    Instant createdAt,
    Instant endedAt,
    long version) {
  public static Operator named(String name, Role role, Instant at) {
    return new Operator(
        name, role, Reach.EVERYBODY, null, false, null, null, null, null, at, null, 0);
  }

  /**
   * Who is at work when this operator signs in or uses a token.
   *
   * @param atMost the role of the token; null for none
   */
  public Caller caller(Role atMost) {
    return new Caller(name, role, atMost, reach, person, discreet);
  }

  public Operator granted(
      Role role, Reach reach, PersonId person, boolean discreet, Instant endedAt) {
    return new Operator(
        name,
        role,
        reach,
        person,
        discreet,
        passwordHash,
        secondFactor,
        secondFactorAsked,
        lastCode,
        createdAt,
        endedAt,
        version);
  }

  public Operator withPassword(String hash) {
    return new Operator(
        name,
        role,
        reach,
        person,
        discreet,
        hash,
        secondFactor,
        secondFactorAsked,
        lastCode,
        createdAt,
        endedAt,
        version);
  }

  /**
   * @param inForce null for none
   * @param asked null for none
   */
  public Operator withSecondFactor(String inForce, String asked, Long code) {
    return new Operator(
        name,
        role,
        reach,
        person,
        discreet,
        passwordHash,
        inForce,
        asked,
        code,
        createdAt,
        endedAt,
        version);
  }
}
