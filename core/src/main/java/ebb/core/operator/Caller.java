package ebb.core.operator;

import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import java.util.EnumSet;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * An operator at work.
 *
 * @param atMost the role of the token in use: only what both roles include may be done; null for no
 *     such bound
 * @param person whom the operator is among the people; null if that is not known
 * @param discreet whether discreet cases were opened to them by name
 */
public record Caller(
    String name, Role role, Role atMost, Reach reach, PersonId person, boolean discreet) {
  public boolean may(Act act) {
    return includes(act) && (reach.isEverybody() || !act.isOfEverybody());
  }

  private boolean includes(Act act) {
    return act.roles().contains(role)
        && (atMost == null || act.roles().contains(atMost))
        && (act != Act.SEE_DISCREET || discreet);
  }

  public Set<Act> acts() {
    return EnumSet.allOf(Act.class).stream()
        .filter(this::may)
        .collect(Collectors.toCollection(() -> EnumSet.noneOf(Act.class)));
  }

  /**
   * @throws Refusal of kind FORBIDDEN if the operator may not
   */
  public void require(Act act) {
    if (act == Act.SEE_DISCREET && !discreet) {
      throw forbidden(
          "discreet-case",
          "This is a discreet case, and %s may not look into it.".formatted(name),
          "Discreet cases are opened to operators by name, whatever their role.",
          "Ask whoever looks after operators, or whoever ordered it.");
    }
    if (!includes(act)) {
      throw forbidden(
          "not-allowed",
          "%s may not %s.".formatted(name, act.words()),
          "The role %s does not include it."
              .formatted(
                  act.roles().contains(role) ? atMost.word() + " of the token" : role.word()),
          "Ask an operator who is %s."
              .formatted(
                  act.roles().stream()
                      .sorted()
                      .map(Role::word)
                      .collect(Collectors.joining(" or "))));
    }
    if (!may(act)) {
      throw forbidden(
          "beyond-reach",
          "%s may not %s.".formatted(name, act.words()),
          "It touches everybody, and %s answers for %s only.".formatted(name, reach.words()),
          "Ask an operator who answers for everybody.");
    }
  }

  public static Refusal beyond(String name, Reach reach, String what) {
    return forbidden(
        "beyond-reach",
        "%s is beyond what %s answers for.".formatted(what, name),
        "%s answers for %s only.".formatted(name, reach.words()),
        "Ask an operator whose units or kinds of people include them.");
  }

  private static Refusal forbidden(String code, String what, String why, String remedy) {
    return new Refusal(Refusal.Kind.FORBIDDEN, new Problem(code, what, why, remedy, null));
  }
}
