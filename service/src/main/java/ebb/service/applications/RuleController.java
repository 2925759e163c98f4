package ebb.service.applications;

import ebb.api.Listing;
import ebb.api.RuleView;
import ebb.core.operator.Act;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.core.rule.Expressions;
import ebb.core.rule.Rule;
import ebb.service.evaluation.Evaluator;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.applications.Applications;
import ebb.store.applications.Applications.StoredRule;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.hibernate.StatelessSession;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/rules")
class RuleController {
  private final Database database;
  private final Applications applications;
  private final Expressions expressions;
  private final RuleEdits edits;
  private final Journal journal;
  private final BusinessClock clock;

  RuleController(
      Database database,
      Applications applications,
      Evaluator evaluator,
      RuleEdits edits,
      Journal journal,
      BusinessClock clock) {
    this.database = database;
    this.applications = applications;
    this.expressions = evaluator.expressions();
    this.edits = edits;
    this.journal = journal;
    this.clock = clock;
  }

  @Allowed(Act.SEE_SETTINGS)
  @GetMapping
  Listing<RuleView> list() {
    return Listing.whole(
        database.read(applications::rules).stream().map(RuleController::view).toList());
  }

  @Allowed(Act.SEE_SETTINGS)
  @GetMapping("/{name}")
  ResponseEntity<RuleView> show(@PathVariable String name) {
    var rule =
        database
            .read(session -> applications.rule(session, name))
            .orElseThrow(() -> Refusal.notFound("rule", name, "See: ebb rules list"));
    return Requests.tagged(rule.version(), view(rule));
  }

  /** Keeps a rule, and shows as a change set what follows from it. */
  @Allowed(Act.EDIT_SETTINGS)
  @PutMapping("/{name}")
  ResponseEntity<RuleView> put(
      @PathVariable String name,
      @RequestHeader(name = "If-Match", required = false) String ifMatch,
      @RequestBody RuleView edit,
      Principal principal) {
    var rule = checked(name, edit);
    database.writeAll(
        session -> {
          long version = applications.rule(session, name).map(StoredRule::version).orElse(0L);
          Requests.expect("Rule " + name, Requests.version(ifMatch), version);
          applications.putRule(session, rule, version + 1);
          journal.write(
              session, clock.instant(), Deed.of(principal.getName(), "edited rule " + name));
        });
    edits.show(rule, principal.getName());
    return show(name);
  }

  private Rule checked(String name, RuleView edit) {
    var rule =
        new Rule(
            name,
            Requests.required(edit.application(), "application"),
            Requests.required(edit.condition(), "condition"),
            new TreeMap<>(edit.values() == null ? Map.of() : edit.values()),
            new TreeMap<>(edit.references() == null ? Map.of() : edit.references()),
            new TreeSet<>(edit.groups() == null ? Set.of() : edit.groups()),
            edit.seat() == null || edit.seat().isBlank() ? null : edit.seat().strip(),
            Math.max(0, edit.leadDays()));
    var problems = new ArrayList<Problem>();
    checkApplication(rule.application(), problems);
    check(rule.condition(), "condition", problems);
    rule.values().forEach((attribute, mapping) -> check(mapping, attribute, problems));
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
    return rule;
  }

  private void checkApplication(String application, List<Problem> problems) {
    if (database
        .read((StatelessSession session) -> applications.get(session, application))
        .isEmpty()) {
      problems.add(
          new Problem(
              "application-unknown",
              "There is no application %s.".formatted(application),
              "The rule could give nobody anything.",
              "Connect it first: ebb applications add",
              Where.field("application")));
    }
  }

  private void check(String expression, String field, List<Problem> problems) {
    try {
      expressions.check(expression, Where.field(field));
    } catch (Refusal e) {
      problems.addAll(e.problems());
    }
  }

  private static RuleView view(StoredRule stored) {
    var rule = stored.rule();
    return new RuleView(
        rule.name(),
        stored.version(),
        rule.application(),
        rule.condition(),
        rule.values(),
        rule.references(),
        rule.groups(),
        rule.seat(),
        rule.leadDays());
  }
}
