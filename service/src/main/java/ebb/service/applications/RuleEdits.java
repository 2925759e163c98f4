package ebb.service.applications;

import ebb.core.change.Cause;
import ebb.core.rule.Rule;
import ebb.service.changes.Proposals;
import ebb.service.evaluation.Everyone;
import org.springframework.stereotype.Component;

/** What follows from an edited rule. */
@Component
final class RuleEdits {
  private final Proposals proposals;
  private final Everyone everyone;

  RuleEdits(Proposals proposals, Everyone everyone) {
    this.proposals = proposals;
    this.everyone = everyone;
  }

  /** Shows the changes in the rule's application as a set, if there are any. */
  void show(Rule rule, String by) {
    proposals.differences(
        Cause.RULE,
        "rule " + rule.name(),
        by,
        everyone,
        draft -> draft.application().equals(rule.application()));
  }
}
