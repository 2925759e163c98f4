package ebb.service.rules;

import ebb.api.Listing;
import ebb.api.LoginSchemeEdit;
import ebb.api.LoginSchemeView;
import ebb.api.LoginTrialView;
import ebb.core.name.LoginScheme;
import ebb.core.operator.Act;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.core.rule.Expressions;
import ebb.service.evaluation.Evaluator;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.store.Database;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.LoginSchemes;
import ebb.store.people.Logins;
import ebb.store.people.PeopleLists;
import ebb.store.people.StoredPerson;
import java.security.Principal;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** How logins are made; tried on people who are known before it is put in force. */
@RestController
@RequestMapping("/api/v1/login-schemes")
class LoginSchemeController {
  /** One scheme serves all applications: a login is the same everywhere. */
  private static final String NAME = "login";

  private static final int SHORTEST = 4;
  private static final int TRIED = 20;

  private final Database database;
  private final BusinessClock clock;
  private final LoginSchemes schemes;
  private final Logins logins;
  private final PeopleLists lists;
  private final RuleCheck check;
  private final Expressions expressions;
  private final Journal journal;

  LoginSchemeController(
      Database database,
      BusinessClock clock,
      LoginSchemes schemes,
      Logins logins,
      PeopleLists lists,
      RuleCheck check,
      Evaluator evaluator,
      Journal journal) {
    this.database = database;
    this.clock = clock;
    this.schemes = schemes;
    this.logins = logins;
    this.lists = lists;
    this.check = check;
    this.expressions = evaluator.expressions();
    this.journal = journal;
  }

  @Allowed(Act.SEE_SETTINGS)
  @GetMapping
  Listing<LoginSchemeView> loginSchemes() {
    return Listing.whole(List.of(view(database.read(schemes::latest))));
  }

  /** Puts a scheme in force, for whoever comes or is renamed from now on; nobody else is. */
  @Allowed(Act.EDIT_SETTINGS)
  @PutMapping("/{name}")
  LoginSchemeView putLoginScheme(
      @PathVariable String name, @RequestBody LoginSchemeEdit edit, Principal principal) {
    var wanted = checked(name, edit);
    return database.write(
        session -> {
          schemes.put(session, wanted, principal.getName(), clock.instant());
          journal.write(
              session,
              clock.instant(),
              Deed.of(principal.getName(), words(wanted)).because(edit.reason()));
          return view(schemes.latest(session));
        });
  }

  /** What the people who came last would be called by a scheme; nothing is kept. */
  @Allowed(Act.SEE_SETTINGS)
  @PostMapping("/{name}/try")
  Listing<LoginTrialView> tryLoginScheme(
      @PathVariable String name, @RequestBody LoginSchemeEdit edit, Principal principal) {
    var scheme = checked(name, edit);
    var reach = Callers.of(principal).reach();
    return Listing.whole(
        database.read(
            session -> {
              var given = new HashSet<String>();
              return lists.newest(session, reach, TRIED).stream()
                  .map(person -> trial(session, scheme, person, given))
                  .toList();
            }));
  }

  private LoginTrialView trial(
      StatelessSession session, LoginScheme scheme, StoredPerson stored, Set<String> given) {
    var person = stored.person();
    var wouldBe =
        scheme.allocate(
            person,
            expressions::textOfPerson,
            login -> isFree(session, login, person.id()) && !given.contains(login));
    given.add(wouldBe);
    return new LoginTrialView(person.id().value(), stored.displayName(), stored.login(), wouldBe);
  }

  private boolean isFree(StatelessSession session, String login, PersonId id) {
    return logins.owner(session, login).filter(owner -> !owner.equals(id)).isEmpty()
        && logins.resting(session, Set.of(login), clock.today()).getOrDefault(login, id).equals(id);
  }

  private LoginScheme checked(String name, LoginSchemeEdit edit) {
    if (!NAME.equals(name)) {
      throw Refusal.notFound("scheme of names", name, "See: ebb logins show");
    }
    var wanted = Optional.ofNullable(edit.expressions()).orElse(List.of());
    var longest = Optional.ofNullable(edit.longest()).orElse(LoginScheme.USUAL.longest());
    var rest = Optional.ofNullable(edit.restDays()).orElse(LoginScheme.USUAL.restDays());
    var problems = new ArrayList<Problem>();
    for (int i = 0; i < wanted.size(); i++) {
      problems.addAll(problemsOf(wanted.get(i), "expressions[%d]".formatted(i)));
    }
    if (wanted.size() > LoginScheme.MOST_EXPRESSIONS) {
      problems.add(tooMany(wanted.size()));
    }
    if (longest < SHORTEST || longest > LoginScheme.MOST_CHARACTERS) {
      problems.add(noLength(longest));
    }
    if (rest < 0 || rest > LoginScheme.MOST_REST_DAYS) {
      problems.add(noRest(rest));
    }
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
    return new LoginScheme(0, wanted, longest, reserved(edit), rest);
  }

  private static TreeSet<String> reserved(LoginSchemeEdit edit) {
    return Optional.ofNullable(edit.reserved()).orElse(Set.of()).stream()
        .filter(Objects::nonNull)
        .map(name -> name.strip().toLowerCase(Locale.ROOT))
        .filter(name -> !name.isEmpty())
        .collect(Collectors.toCollection(TreeSet::new));
  }

  private List<Problem> problemsOf(String expression, String field) {
    var problem = expressions.problemOfPerson(expression, Where.field(field));
    return problem.map(List::of).orElseGet(() -> check.expression(expression, field));
  }

  private static Problem tooMany(int count) {
    return new Problem(
        "expressions-too-many",
        "%d expressions are more than %d.".formatted(count, LoginScheme.MOST_EXPRESSIONS),
        "Each is computed for everybody who comes.",
        "Numbers follow by themselves once all names are taken: leave some out.",
        Where.field("expressions"));
  }

  private static Problem noLength(int longest) {
    return new Problem(
        "length-invalid",
        "%d is no length for logins.".formatted(longest),
        "Names need room for a number at their end, and the registry keeps %d characters."
            .formatted(LoginScheme.MOST_CHARACTERS),
        "Choose %d to %d.".formatted(SHORTEST, LoginScheme.MOST_CHARACTERS),
        Where.field("longest"));
  }

  private static Problem noRest(int days) {
    return new Problem(
        "rest-invalid",
        "Names cannot rest for %,d days.".formatted(days),
        "They rest from the day on which their person is forgotten, thirty years at most.",
        "Choose 0 to %,d.".formatted(LoginScheme.MOST_REST_DAYS),
        Where.field("restDays"));
  }

  private static String words(LoginScheme scheme) {
    return "set how logins are made: %s, %d characters at most%s; names rest %d days"
        .formatted(
            scheme.expressions().isEmpty()
                ? "given.family"
                : String.join(", else ", scheme.expressions()),
            scheme.longest(),
            scheme.reserved().isEmpty() ? "" : ", never " + String.join(", ", scheme.reserved()),
            scheme.restDays());
  }

  private static LoginSchemeView view(Optional<LoginSchemes.Kept> kept) {
    var scheme = kept.map(LoginSchemes.Kept::scheme).orElse(LoginScheme.USUAL);
    return new LoginSchemeView(
        NAME,
        scheme.expressions(),
        scheme.longest(),
        scheme.reserved(),
        scheme.restDays(),
        scheme.number(),
        kept.map(LoginSchemes.Kept::by).orElse(null),
        kept.map(LoginSchemes.Kept::at).orElse(null));
  }
}
