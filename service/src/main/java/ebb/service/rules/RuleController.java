package ebb.service.rules;

import ebb.api.ChangeSetView;
import ebb.api.Listing;
import ebb.api.RuleView;
import ebb.api.RuleView.BoundView;
import ebb.api.RuleView.SeatChoiceView;
import ebb.api.RulesEdit;
import ebb.core.operator.Act;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.core.rule.Bound;
import ebb.core.rule.Rule;
import ebb.core.rule.RuleEdit;
import ebb.core.rule.SeatChoice;
import ebb.service.changes.ChangeViews;
import ebb.service.changes.Rehearsals;
import ebb.service.web.Allowed;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.changes.ChangeSets;
import ebb.store.rules.Rules;
import java.net.URI;
import java.security.Principal;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.hibernate.StatelessSession;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/rules")
class RuleController {
  private final Database database;
  private final Rules rules;
  private final RuleCheck check;
  private final Rehearsals rehearsals;
  private final ChangeSets changeSets;
  private final ChangeViews views;

  RuleController(
      Database database,
      Rules rules,
      RuleCheck check,
      Rehearsals rehearsals,
      ChangeSets changeSets,
      ChangeViews views) {
    this.database = database;
    this.rules = rules;
    this.check = check;
    this.rehearsals = rehearsals;
    this.changeSets = changeSets;
    this.views = views;
  }

  @Allowed(Act.SEE_SETTINGS)
  @GetMapping
  Listing<RuleView> list() {
    return database.read(
        session -> {
          var waiting = rules.waiting(session);
          var all = rules.list(session);
          var inForce = all.stream().map(Rules.Stored::rule).toList();
          return Listing.whole(
              all.stream().map(one -> view(one, inForce, waiting.get(one.rule().name()))).toList());
        });
  }

  @Allowed(Act.SEE_SETTINGS)
  @GetMapping("/{name}")
  ResponseEntity<RuleView> show(@PathVariable String name) {
    return database.read(
        session -> {
          var rule = rules.get(session, name).orElseThrow(() -> unknown(name));
          return Requests.tagged(
              rule.version(),
              view(rule, rules.inForce(session), rules.waitingIn(session, name).orElse(null)));
        });
  }

  /**
   * Shows what follows if a rule is so; it comes into force with the release of that.
   *
   * @param expected for how many people something should change; left out where nobody knows
   */
  @Allowed(Act.EDIT_SETTINGS)
  @PutMapping("/{name}")
  ResponseEntity<ChangeSetView> put(
      @PathVariable String name,
      @RequestHeader(name = "If-Match", required = false) String ifMatch,
      @RequestParam(required = false) Long expected,
      @RequestBody RuleView edit,
      Principal principal) {
    return rehearsed(name, checked(name, edit), ifMatch, expected, principal);
  }

  /** Shows what follows if several rules are so at once; they come into force with its release. */
  @Allowed(Act.EDIT_SETTINGS)
  @PostMapping
  ResponseEntity<ChangeSetView> putAll(@RequestBody RulesEdit edit, Principal principal) {
    var all = new LinkedHashMap<String, Rule>();
    var problems = new ArrayList<Problem>();
    for (var rule : edit.rules() == null ? List.<RuleView>of() : edit.rules()) {
      var name = Requests.required(rule.name(), "name");
      all.put(name, rule(name, rule));
      check.rule(all.get(name)).forEach(one -> problems.add(of(name, one)));
    }
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
    for (var name : edit.removed() == null ? List.<String>of() : edit.removed()) {
      database.read(session -> rules.get(session, name)).orElseThrow(() -> unknown(name));
      all.put(name, null);
    }
    if (all.isEmpty()) {
      throw Refusal.invalid(
          new Problem(
              "rules-missing",
              "No rule is named.",
              "Nothing would follow.",
              "Name the rules that are to be otherwise, or to go.",
              Where.field("rules")));
    }
    return rehearsed(all, null, edit.expected(), principal);
  }

  /** A problem that says of which rule it is. */
  private static Problem of(String name, Problem problem) {
    var where = problem.where() == null ? name : name + "." + problem.where().column();
    return new Problem(
        problem.code(), problem.what(), problem.why(), problem.remedy(), Where.field(where));
  }

  /** Shows what follows if a rule is taken away; it goes with the release of that. */
  @Allowed(Act.EDIT_SETTINGS)
  @DeleteMapping("/{name}")
  ResponseEntity<ChangeSetView> remove(
      @PathVariable String name,
      @RequestHeader(name = "If-Match", required = false) String ifMatch,
      @RequestParam(required = false) Long expected,
      Principal principal) {
    database.read(session -> rules.get(session, name)).orElseThrow(() -> unknown(name));
    return rehearsed(name, null, ifMatch, expected, principal);
  }

  private ResponseEntity<ChangeSetView> rehearsed(
      String name, Rule rule, String ifMatch, Long expected, Principal principal) {
    return rehearsed(Collections.singletonMap(name, rule), ifMatch, expected, principal);
  }

  /**
   * @param all by name; null takes a rule away
   */
  private ResponseEntity<ChangeSetView> rehearsed(
      Map<String, Rule> all, String ifMatch, Long expected, Principal principal) {
    var by = principal.getName();
    var edits =
        database.read(
            session ->
                all.entrySet().stream()
                    .map(
                        one -> {
                          var name = one.getKey();
                          long now = rules.get(session, name).map(Rules.Stored::version).orElse(0L);
                          Requests.expect("Rule " + name, Requests.version(ifMatch), now);
                          requireNobodyElse(session, name, by);
                          return new RuleEdit(name, one.getValue(), now, expected);
                        })
                    .toList());
    var set = rehearsals.rehearse(title(all), by, null, edits);
    return ResponseEntity.accepted()
        .location(URI.create("/api/v1/change-sets/" + set.id()))
        .body(database.read(session -> views.view(session, set)));
  }

  private static String title(Map<String, Rule> all) {
    if (all.size() > 1) {
      return all.size() + " rules";
    }
    var one = all.entrySet().iterator().next();
    return (one.getValue() == null ? "without rule " : "rule ") + one.getKey();
  }

  /** One's own edit gives way to the next; somebody else's does not. */
  private void requireNobodyElse(StatelessSession session, String name, String by) {
    rules
        .waitingIn(session, name)
        .flatMap(id -> changeSets.get(session, id))
        .filter(set -> !set.createdBy().equals(by))
        .ifPresent(
            set -> {
              throw Refusal.conflict(
                  new Problem(
                      "rule-being-edited",
                      "%s edited rule %s already; that waits in change set %d."
                          .formatted(set.createdBy(), name, set.id()),
                      "What follows from two edits of one rule cannot be shown side by side.",
                      "Release it or discard it first: ebb changes show %d".formatted(set.id()),
                      null));
            });
  }

  private static Refusal unknown(String name) {
    return Refusal.notFound("rule", name, "See: ebb rules list");
  }

  private Rule checked(String name, RuleView edit) {
    var rule = rule(name, edit);
    var problems = check.rule(rule);
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
    return rule;
  }

  private static Rule rule(String name, RuleView edit) {
    return new Rule(
        name,
        Requests.required(edit.application(), "application"),
        Requests.required(edit.condition(), "condition"),
        new TreeMap<>(edit.values() == null ? Map.of() : edit.values()),
        new TreeMap<>(edit.references() == null ? Map.of() : edit.references()),
        new TreeSet<>(edit.groups() == null ? Set.of() : edit.groups()),
        edit.seats() == null
            ? List.of()
            : edit.seats().stream().map(RuleController::choice).toList(),
        Math.max(0, edit.leadDays()),
        bound(edit.from()),
        bound(edit.until()),
        edit.byItself());
  }

  private static SeatChoice choice(SeatChoiceView seat) {
    return new SeatChoice(
        Requests.required(seat.seat(), "seats"), Requests.blankAsNull(seat.condition()));
  }

  private static Bound bound(BoundView bound) {
    return bound == null
        ? null
        : new Bound(Requests.blankAsNull(bound.attribute()), bound.day(), bound.days());
  }

  private static BoundView view(Bound bound) {
    return bound == null ? null : new BoundView(bound.attribute(), bound.day(), bound.days());
  }

  /**
   * @param all rules in force
   */
  private RuleView view(Rules.Stored stored, List<Rule> all, Long waitsIn) {
    var rule = stored.rule();
    return new RuleView(
        rule.name(),
        stored.version(),
        rule.application(),
        rule.condition(),
        check.sentence(rule.condition()),
        rule.values(),
        rule.references(),
        rule.groups(),
        rule.seats().stream().map(one -> new SeatChoiceView(one.seat(), one.condition())).toList(),
        rule.leadDays(),
        view(rule.from()),
        view(rule.until()),
        rule.byItself(),
        check.notes(rule, all),
        waitsIn);
  }
}
