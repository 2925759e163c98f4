package ebb.service.rules;

import ebb.core.person.Attributes;
import ebb.core.person.Catalogue;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.core.rule.Conditions;
import ebb.core.rule.Expressions;
import ebb.core.rule.Rule;
import ebb.service.evaluation.Evaluator;
import ebb.store.Database;
import ebb.store.applications.Applications;
import ebb.store.people.OwnAttributes;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** What is wrong with a rule, all of it at once. */
@Component
final class RuleCheck {
  private final Database database;
  private final Applications applications;
  private final OwnAttributes attributes;
  private final Expressions expressions;

  RuleCheck(
      Database database, Applications applications, OwnAttributes attributes, Evaluator evaluator) {
    this.database = database;
    this.applications = applications;
    this.attributes = attributes;
    this.expressions = evaluator.expressions();
  }

  List<Problem> rule(Rule rule) {
    var problems = new ArrayList<Problem>();
    if (database.read(session -> applications.get(session, rule.application())).isEmpty()) {
      problems.add(unknownApplication(rule.application()));
    }
    problems.addAll(expression(rule.condition(), "condition"));
    rule.values().forEach((attribute, mapping) -> problems.addAll(expression(mapping, attribute)));
    return problems;
  }

  private static Problem unknownApplication(String application) {
    return new Problem(
        "application-unknown",
        "There is no application %s.".formatted(application),
        "The rule could give nobody anything.",
        "Connect it first: ebb applications connect",
        Where.field("application"));
  }

  /** What is wrong with CEL over people, also that nobody ever has an attribute it reads. */
  List<Problem> expression(String cel, String field) {
    try {
      expressions.check(cel, Where.field(field));
    } catch (Refusal e) {
      return e.problems();
    }
    var catalogue = catalogue();
    return expressions.reads(cel).stream()
        .filter(read -> !isKnown(catalogue, read))
        .map(read -> unknownAttribute(catalogue, read, field))
        .toList();
  }

  /** person.name is the branch on which name.familyName stands. */
  private static boolean isKnown(Catalogue catalogue, String read) {
    return read.equals(Attributes.DISPLAY_NAME)
        || catalogue.find(read).isPresent()
        || catalogue.names().stream().anyMatch(name -> name.startsWith(read + "."));
  }

  private static Problem unknownAttribute(Catalogue catalogue, String read, String field) {
    var like =
        catalogue.names().stream()
            .filter(name -> isLike(name, read))
            .limit(3)
            .collect(Collectors.joining(", "));
    return new Problem(
        "attribute-unknown",
        "People have no attribute %s.".formatted(read),
        "Nobody could ever have a value there.",
        (like.isEmpty() ? "" : "Perhaps %s was meant. ".formatted(like))
            + "See those there are: ebb attributes list",
        Where.field(field));
  }

  private static boolean isLike(String name, String read) {
    var wanted = plain(read);
    var had = plain(name);
    return had.contains(wanted)
        || wanted.contains(had)
        || (wanted.length() > 3 && had.startsWith(wanted.substring(0, 4)));
  }

  private static String plain(String name) {
    return name.replaceFirst(".*\\.", "").toLowerCase(Locale.ROOT);
  }

  /** A condition as it is read aloud. */
  String sentence(String cel) {
    return Conditions.sentence(expressions.condition(cel, Where.field("condition")));
  }

  private Catalogue catalogue() {
    return database.read(attributes::catalogue);
  }
}
