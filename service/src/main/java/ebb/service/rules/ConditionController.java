package ebb.service.rules;

import ebb.api.ConditionRequest;
import ebb.api.ConditionView;
import ebb.api.MatchView;
import ebb.core.operator.Act;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.core.rule.Condition;
import ebb.core.rule.Conditions;
import ebb.service.evaluation.Evaluator;
import ebb.service.web.Allowed;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.people.People;
import ebb.store.people.PeopleFilter;
import ebb.store.people.PeopleLists;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Conditions while they are written: how they read, and for whom they hold. */
@RestController
@RequestMapping("/api/v1/conditions")
class ConditionController {
  /** Whoever types does not wait longer; the rest is asked for by further requests. */
  private static final Duration LONGEST = Duration.ofMillis(700);

  private static final int SHOWN = 8;

  private final Database database;
  private final Evaluator evaluator;
  private final People people;
  private final PeopleLists lists;
  private final RuleCheck check;

  ConditionController(
      Database database, Evaluator evaluator, People people, PeopleLists lists, RuleCheck check) {
    this.database = database;
    this.evaluator = evaluator;
    this.people = people;
    this.lists = lists;
    this.check = check;
  }

  /** A condition as CEL, as it can be built, and as a sentence. Nothing is kept. */
  @Allowed(Act.SEE_SETTINGS)
  @PostMapping("/read")
  ConditionView read(@RequestBody ConditionRequest request) {
    var cel = checked(request);
    var condition = condition(cel);
    return new ConditionView(cel, ConditionViews.view(condition), Conditions.sentence(condition));
  }

  private Condition condition(String cel) {
    return evaluator.expressions().condition(cel, Where.field("condition"));
  }

  private String checked(ConditionRequest request) {
    var cel =
        request.built() == null
            ? Requests.required(request.cel(), "cel")
            : Conditions.cel(ConditionViews.read(request.built()));
    var problems = check.expression(cel, "condition");
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
    return cel;
  }

  /**
   * Counts for whom a condition holds today, as far as it comes in a moment; to be asked again from
   * there. Nothing is kept.
   */
  @Allowed(Act.EDIT_SETTINGS)
  @PostMapping("/match")
  MatchView match(@RequestBody ConditionRequest request) {
    var cel = checked(request);
    var began = System.nanoTime();
    var looked = 0;
    var failing = 0;
    String failure = null;
    var matching = new ArrayList<Person>();
    var last = new PersonId(request.after() == null ? 0 : request.after());
    List<PersonId> part;
    do {
      var after = last;
      part = database.read(session -> people.after(session, after, Evaluator.PART));
      for (var one : matched(part, cel)) {
        if (one.holds()) {
          matching.add(one.person());
        }
        if (one.failure() != null) {
          failing++;
          failure = failure == null ? one.failure() : failure;
        }
      }
      looked += part.size();
      last = part.isEmpty() ? last : part.getLast();
    } while (part.size() == Evaluator.PART && System.nanoTime() - began < LONGEST.toNanos());
    return new MatchView(
        looked,
        matching.size(),
        failing,
        failure,
        database.read(
            session -> lists.count(session, PeopleFilter.EVERYONE, Integer.MAX_VALUE - 1)),
        matching.stream().limit(SHOWN).map(ConditionController::view).toList(),
        part.size() == Evaluator.PART ? last.value() : null);
  }

  private List<Evaluator.Matched> matched(List<PersonId> part, String cel) {
    return part.isEmpty()
        ? List.of()
        : database.read(session -> evaluator.match(session, part, cel));
  }

  private static MatchView.PersonRef view(Person person) {
    return new MatchView.PersonRef(
        person.id().value(), person.displayName(), person.get("department").orElse(null));
  }
}
