package ebb.core.operator;

import java.util.Locale;

/** What an operator is trusted with; what each may do stands in {@link Act}. */
public enum Role {
  AUDITOR,
  HELPDESK,
  STEWARD,
  ADMINISTRATOR;

  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }
}
