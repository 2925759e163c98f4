package ebb.core.rule;

import java.util.Collection;
import java.util.List;
import java.util.TreeMap;

/**
 * What a rule is to be from some release on.
 *
 * @param rule null takes it away
 * @param version of the rule the edit began from; 0 if there was none
 * @param expected for how many people something should change by it; null where nobody said
 */
public record RuleEdit(String name, Rule rule, long version, Long expected) {
  /** Rules as they are once these edits are in force, by name. */
  public static List<Rule> in(Collection<Rule> rules, Collection<RuleEdit> edits) {
    var byName = new TreeMap<String, Rule>();
    rules.forEach(rule -> byName.put(rule.name(), rule));
    for (var edit : edits) {
      if (edit.rule() == null) {
        byName.remove(edit.name());
      } else {
        byName.put(edit.name(), edit.rule());
      }
    }
    return List.copyOf(byName.values());
  }
}
