package ebb.service.rules;

import ebb.core.person.Attribute;
import ebb.core.person.Attributes;
import ebb.core.person.Catalogue;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.core.rule.Bound;
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
import java.util.Objects;
import java.util.Optional;
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
    rule.expressions().forEach((field, cel) -> problems.addAll(expression(cel, field)));
    bound(rule.from(), "from").ifPresent(problems::add);
    bound(rule.until(), "until").ifPresent(problems::add);
    endsFirst(rule).ifPresent(problems::add);
    fewerThanNobody(rule).ifPresent(problems::add);
    return problems;
  }

  private Optional<Problem> bound(Bound bound, String field) {
    if (bound == null || (bound.attribute() == null) == (bound.day() != null)) {
      return Optional.ofNullable(bound)
          .filter(one -> one.attribute() != null)
          .filter(one -> !isDate(one.attribute()))
          .map(one -> noDate(one.attribute(), field));
    }
    return Optional.of(
        new Problem(
            "bound-unclear",
            "It is not said from what this rule counts.",
            "Either one of the person's dates or a day is needed, and not both.",
            "Give one of them, as startDate or 2027-05-01.",
            Where.field(field)));
  }

  private boolean isDate(String attribute) {
    return catalogue()
        .find(attribute)
        .filter(known -> known.type() == Attribute.Type.DATE)
        .isPresent();
  }

  private Problem noDate(String attribute, String field) {
    var dates =
        catalogue().all().stream()
            .filter(one -> one.type() == Attribute.Type.DATE)
            .map(Attribute::name)
            .collect(Collectors.joining(", "));
    return new Problem(
        "attribute-no-date",
        "People have no date %s.".formatted(attribute),
        "No day could be counted from it.",
        "Use one of %s.".formatted(dates),
        Where.field(field));
  }

  /** Two that count from the same can be told apart for everyone. */
  private static Optional<Problem> endsFirst(Rule rule) {
    var from = rule.from();
    var until = rule.until();
    if (from == null || until == null || !Objects.equals(from.attribute(), until.attribute())) {
      return Optional.empty();
    }
    var neverOpens =
        from.attribute() != null
            ? until.days() < from.days()
            : from.day() != null
                && until.day() != null
                && until.day().plusDays(until.days()).isBefore(from.day().plusDays(from.days()));
    return neverOpens
        ? Optional.of(
            new Problem(
                "ends-before-it-begins",
                "The last day of this rule comes before its first.",
                "It would give nobody anything, ever.",
                "Let it end on its first day or later.",
                Where.field("until")))
        : Optional.empty();
  }

  private static Optional<Problem> fewerThanNobody(Rule rule) {
    return Optional.ofNullable(rule.byItself())
        .filter(count -> count < 0)
        .map(
            count ->
                new Problem(
                    "by-itself-invalid",
                    "%d people are fewer than nobody.".formatted(count),
                    "It says how many people a day the rule may change with nobody's release.",
                    "Say 0 for nobody, or leave it out.",
                    Where.field("byItself")));
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

  /** Where another rule fills the same attribute otherwise, and which of the two wins. */
  List<String> notes(Rule rule, List<Rule> all) {
    return all.stream()
        .filter(other -> other.application().equals(rule.application()))
        .filter(other -> !other.name().equals(rule.name()))
        .flatMap(
            other ->
                rule.values().entrySet().stream()
                    .filter(one -> other.values().containsKey(one.getKey()))
                    .filter(one -> !other.values().get(one.getKey()).equals(one.getValue()))
                    .map(one -> note(one.getKey(), rule, other)))
        .toList();
  }

  private static String note(String attribute, Rule rule, Rule other) {
    var wins = rule.name().compareTo(other.name()) < 0 ? rule : other;
    return "%s is filled otherwise by %s. For whoever has both, %s wins: its name sorts first."
        .formatted(attribute, other.name(), wins.name());
  }

  /** A condition as it is read aloud. */
  String sentence(String cel) {
    return Conditions.sentence(expressions.condition(cel, Where.field("condition")));
  }

  private Catalogue catalogue() {
    return database.read(attributes::catalogue);
  }
}
