package ebb.bench;

import dev.cel.common.CelValidationException;
import dev.cel.common.types.ListType;
import dev.cel.common.types.MapType;
import dev.cel.common.types.SimpleType;
import dev.cel.compiler.CelCompiler;
import dev.cel.compiler.CelCompilerFactory;
import dev.cel.parser.CelStandardMacro;
import dev.cel.runtime.CelEvaluationException;
import dev.cel.runtime.CelRuntime;
import dev.cel.runtime.CelRuntimeFactory;
import ebb.core.application.Capabilities;
import ebb.core.application.Level;
import ebb.core.application.ObservedAccount;
import ebb.core.compare.Compare;
import ebb.core.compare.HeldAccount;
import ebb.core.person.Held;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.core.rule.Desire;
import ebb.core.rule.DesiredAccount;
import ebb.core.rule.Expressions;
import ebb.core.rule.Rule;
import ebb.core.rule.Subject;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Everybody computed and compared, where nothing is to be done; against the bare library evaluating
 * the same conditions, and the same mappings where they hold.
 */
final class EvaluateAll {
  private static final Instant NOW = Instant.parse("2027-03-01T12:00:00Z");
  private static final ZoneId UTC = ZoneId.of("UTC");
  private static final int RULES = 20;
  private static final int APPLICATIONS = 5;
  private static final List<String> CONDITIONS =
      List.of(
          "true",
          "person.userType != 'contractor'",
          "person.location in ['Skerrow', 'Holm']",
          "person.department == 'Unit 012' && person.title != 'Mate'");
  private static final Map<String, String> VALUES =
      Map.of(
          "userName", "login",
          "name.givenName", "person.name.givenName",
          "name.familyName", "person.name.familyName",
          "title", "person.title",
          "emails.work", "login + '@skerrow.example'");

  private final List<Rule> rules = rules();
  private final Desire desire = new Desire(rules, new Expressions(), UTC);
  private final Compare compare =
      new Compare(Capabilities.UNKNOWN, _ -> new Compare.Reference.None());

  static Measured run(Trial trial) throws Exception {
    var bench = new EvaluateAll();
    var subjects = new ArrayList<Subject>();
    var held = new ArrayList<Map<String, HeldAccount>>();
    for (int i = 0; i < trial.n(); i++) {
      subjects.add(subject(i));
      held.add(bench.held(subjects.getLast()));
    }
    var bare = new Bare();
    var took =
        trial.medians(
            "evaluate-all",
            (_, _) ->
                new double[] {bench.compute(subjects, held), bare.evaluate(bench.rules, subjects)});
    return new Measured("evaluate-all", took[0], took[1], 2, "s", trial.n());
  }

  private static List<Rule> rules() {
    var rules = new ArrayList<Rule>();
    for (int i = 0; i < RULES; i++) {
      rules.add(
          new Rule(
              "rule-%02d".formatted(i),
              "application-" + i % APPLICATIONS,
              CONDITIONS.get(i / APPLICATIONS),
              new TreeMap<>(VALUES),
              null,
              new TreeSet<>(List.of("group-" + i)),
              null,
              14,
              null,
              null,
              null));
    }
    return rules;
  }

  private static Subject subject(int number) {
    var values =
        Map.of(
            "name.givenName",
            "Ida",
            "name.familyName",
            "Holm" + number,
            "title",
            number % 3 == 0 ? "Mate" : "Bosun",
            "department",
            "Unit %03d".formatted(number % 200),
            "userType",
            number % 10 == 0 ? "contractor" : "employee",
            "location",
            List.of("Skerrow", "Holm", "Vane").get(number % 3),
            "startDate",
            "2026-01-05");
    var held = new TreeMap<String, Held>();
    values.forEach((name, value) -> held.put(name, new Held(value, "hr", Instant.EPOCH)));
    var person = new Person(new PersonId(number + 1L), held);
    return new Subject(person, "ida.holm" + number, List.of(), List.of(), List.of(), false);
  }

  /** What is there: all that should be. */
  private Map<String, HeldAccount> held(Subject subject) {
    var held = new HashMap<String, HeldAccount>();
    desire
        .of(subject, _ -> Optional.empty(), NOW)
        .accounts()
        .forEach((name, account) -> held.put(name, held(account)));
    return held;
  }

  private static HeldAccount held(DesiredAccount account) {
    var values = new TreeMap<String, List<String>>();
    account.values().forEach((name, value) -> values.put(name, value.value().texts()));
    return new HeldAccount(
        1,
        account.application(),
        Level.ACTIVE,
        new ObservedAccount("1", null, true, values, account.groupNames()),
        new TreeMap<>(account.groups()),
        false,
        false,
        false);
  }

  private double compute(List<Subject> subjects, List<Map<String, HeldAccount>> held) {
    var begin = System.nanoTime();
    var found = 0;
    for (int i = 0; i < subjects.size(); i++) {
      var desired = desire.of(subjects.get(i), _ -> Optional.empty(), NOW).accounts();
      for (var account : desired.values()) {
        found +=
            compare
                .differences(
                    Optional.of(account),
                    Optional.ofNullable(held.get(i).get(account.application())))
                .size();
      }
    }
    if (found > 0) {
      throw new IllegalStateException(found + " differences where nothing is to be done");
    }
    return (System.nanoTime() - begin) / 1e9;
  }

  /** The library, and nothing else. */
  private static final class Bare {
    private final CelCompiler compiler =
        CelCompilerFactory.standardCelCompilerBuilder()
            .setStandardMacros(CelStandardMacro.STANDARD_MACROS)
            .addVar("person", MapType.create(SimpleType.STRING, SimpleType.DYN))
            .addVar("login", SimpleType.STRING)
            .addVar("aliases", ListType.create(SimpleType.STRING))
            .build();
    private final CelRuntime runtime = CelRuntimeFactory.standardCelRuntimeBuilder().build();
    private final Map<String, CelRuntime.Program> programs = new HashMap<>();

    private CelRuntime.Program program(String expression) {
      return programs.computeIfAbsent(
          expression,
          text -> {
            try {
              return runtime.createProgram(compiler.compile(text).getAst());
            } catch (CelValidationException | CelEvaluationException e) {
              throw new IllegalStateException(e);
            }
          });
    }

    /** Only the evaluation is timed: what it reads is put together before. */
    double evaluate(List<Rule> rules, List<Subject> subjects) throws CelEvaluationException {
      long nanos = 0;
      long results = 0;
      for (var subject : subjects) {
        var variables = variables(subject);
        var begin = System.nanoTime();
        for (var rule : rules) {
          if (Boolean.TRUE.equals(program(rule.condition()).eval(variables))) {
            for (var mapping : rule.values().values()) {
              results += program(mapping).eval(variables).toString().length();
            }
          }
        }
        nanos += System.nanoTime() - begin;
      }
      if (results == 0) {
        throw new IllegalStateException("Nobody is entitled to anything");
      }
      return nanos / 1e9;
    }

    private static Map<String, Object> variables(Subject subject) {
      var name = new HashMap<String, Object>();
      var person = new HashMap<String, Object>(Map.of("name", name));
      subject
          .person()
          .attributes()
          .forEach(
              (attribute, held) -> {
                if (attribute.startsWith("name.")) {
                  name.put(attribute.substring(5), held.value());
                } else {
                  person.put(attribute, held.value());
                }
              });
      return Map.of("person", person, "login", subject.login(), "aliases", subject.aliases());
    }
  }
}
