package ebb.core.operator;

import static ebb.core.operator.Role.ADMINISTRATOR;
import static ebb.core.operator.Role.AUDITOR;
import static ebb.core.operator.Role.HELPDESK;
import static ebb.core.operator.Role.STEWARD;

import java.util.EnumSet;
import java.util.Locale;
import java.util.Set;

/** What operators do with Ebb, and which roles may: the only place where that is said. */
public enum Act {
  /** Look after one's own sign-in. */
  OWN("look after one's own sign-in", AUDITOR, HELPDESK, STEWARD, ADMINISTRATOR),
  SEE("see people, accounts, changes and the journal", AUDITOR, HELPDESK, STEWARD, ADMINISTRATOR),
  /** Given by name only: a role alone does not include it. */
  SEE_DISCREET(
      "see why somebody is suspended where that is discreet", AUDITOR, STEWARD, ADMINISTRATOR),
  EXPORT("export lists", AUDITOR, STEWARD, ADMINISTRATOR),
  RESET("reset passwords", HELPDESK, STEWARD, ADMINISTRATOR),
  EMERGENCY_STOP("stop a person in an emergency", HELPDESK, STEWARD, ADMINISTRATOR),
  LIFT_EMERGENCY_STOP("lift an emergency stop", STEWARD, ADMINISTRATOR),
  EDIT_PEOPLE("create and edit people", STEWARD, ADMINISTRATOR),
  SEE_IMPORTS("see what was brought in", AUDITOR, STEWARD, ADMINISTRATOR),
  IMPORT("bring in files, decide rows set aside and missing people", STEWARD, ADMINISTRATOR),
  RELEASE("release, discard, retry and take back change sets", STEWARD, ADMINISTRATOR),
  PASS_STOP("let a guard stop pass", ADMINISTRATOR),
  DEPARTURES("move departures and waive gates", STEWARD, ADMINISTRATOR),
  /** Never of what one decided oneself. */
  APPROVE("approve deletions above the limit", ADMINISTRATOR),
  OPEN_CONTENTS("open what a leaver's accounts hold", ADMINISTRATOR),
  SET_HOLD("set a hold", STEWARD, ADMINISTRATOR),
  LIFT_HOLD("lift a hold", ADMINISTRATOR),
  SEE_SETTINGS("see applications, sources and rules", AUDITOR, STEWARD, ADMINISTRATOR),
  STOP_WORK("pause applications and stop all work", STEWARD, ADMINISTRATOR),
  EDIT_SETTINGS("edit applications, sources and rules", ADMINISTRATOR),
  OPERATORS("look after operators and tokens", ADMINISTRATOR);

  /** What touches everybody cannot be done by somebody who answers for a few. */
  private static final Set<Act> OF_EVERYBODY =
      EnumSet.of(SEE_IMPORTS, IMPORT, PASS_STOP, STOP_WORK, EDIT_SETTINGS, OPERATORS);

  private final String words;
  private final Set<Role> roles;

  Act(String words, Role... roles) {
    this.words = words;
    this.roles = EnumSet.copyOf(Set.of(roles));
  }

  /** As it follows "may": one may release change sets. */
  public String words() {
    return words;
  }

  public String word() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  public Set<Role> roles() {
    return Set.copyOf(roles);
  }

  /** Whether an operator narrowed to some units or kinds of people is kept from it. */
  public boolean isOfEverybody() {
    return OF_EVERYBODY.contains(this);
  }
}
