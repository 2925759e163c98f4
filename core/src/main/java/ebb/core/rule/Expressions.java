package ebb.core.rule;

import dev.cel.common.CelAbstractSyntaxTree;
import dev.cel.common.CelErrorCode;
import dev.cel.common.CelOptions;
import dev.cel.common.CelValidationException;
import dev.cel.common.types.CelType;
import dev.cel.common.types.ListType;
import dev.cel.common.types.MapType;
import dev.cel.common.types.SimpleType;
import dev.cel.compiler.CelCompiler;
import dev.cel.compiler.CelCompilerFactory;
import dev.cel.extensions.CelExtensions;
import dev.cel.parser.CelStandardMacro;
import dev.cel.runtime.CelEvaluationException;
import dev.cel.runtime.CelRuntime;
import dev.cel.runtime.CelRuntimeFactory;
import ebb.core.person.Person;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Supplier;

/** Compiles and evaluates CEL (Common Expression Language). Programs are kept and shared. */
public final class Expressions {
  /** An expression may take this many steps; a slip must not hold up everybody else. */
  private static final int COST_LIMIT = 10_000;

  private static final int TRIED = 50;
  private static final String PERSON = "person";

  private static final CelOptions OPTIONS =
      CelOptions.current().comprehensionMaxIterations(COST_LIMIT).build();
  private static final CelCompiler COMPILER =
      CelCompilerFactory.standardCelCompilerBuilder()
          .setOptions(OPTIONS)
          .setStandardMacros(CelStandardMacro.STANDARD_MACROS)
          .addVar(PERSON, MapType.create(SimpleType.STRING, SimpleType.DYN))
          .addVar("manager", MapType.create(SimpleType.STRING, SimpleType.DYN))
          .addVar("login", SimpleType.STRING)
          .addVar("aliases", ListType.create(SimpleType.STRING))
          .addVar("units", ListType.create(SimpleType.STRING))
          .addLibraries(CelExtensions.strings())
          .addFunctionDeclarations(Functions.DECLARED)
          .build();

  /** Of a row of a source: the texts of its cells by their headings. */
  private static final String ROW = "row";

  /** Of an account: its texts by the names rules use; the first of several. */
  private static final String ACCOUNT = "account";

  private static final CelRuntime RUNTIME =
      CelRuntimeFactory.standardCelRuntimeBuilder()
          .setOptions(OPTIONS)
          .addLibraries(CelExtensions.strings())
          .addFunctionBindings(Functions.BOUND)
          .build();

  private static final Joined.Outcome NOT_JOINED = new Joined.Outcome.NotText();

  /**
   * @param joined null where the expression does more than putting texts together
   */
  private record Program(Joined joined, CelRuntime.Program general) {}

  /** Those of rules, which are few. */
  private final Map<String, Program> programs = new ConcurrentHashMap<>();

  /** Conditions while they are typed: only the newest are asked about again. */
  private final Map<String, Program> tried =
      Collections.synchronizedMap(
          new LinkedHashMap<>(16, 0.75f, true) {
            @Override
            protected boolean removeEldestEntry(Map.Entry<String, Program> eldest) {
              return size() > TRIED;
            }
          });

  private final OverOne ofRows = new OverOne(ROW, SimpleType.STRING);
  private final OverOne ofAccounts = new OverOne(ACCOUNT, SimpleType.STRING);
  private final OverOne ofPersons = new OverOne(PERSON, SimpleType.DYN);

  /**
   * @throws Refusal if the expression does not compile; names the place in it
   */
  public void check(String expression, Where where) {
    understood(expression, where, () -> ofPeople(expression));
  }

  private static <T> T understood(String expression, Where where, Supplier<T> reading) {
    try {
      return reading.get();
    } catch (IllegalArgumentException e) {
      throw Refusal.invalid(
          new Problem(
              "expression-invalid",
              "The expression %s cannot be understood.".formatted(expression),
              e.getMessage(),
              "Correct it; it may use person, manager, units, login and aliases.",
              where));
    }
  }

  /**
   * The attribute of people that a mapping gives as it is, so that a value can go the other way;
   * empty if it makes anything of it.
   */
  public Optional<String> attributeOf(String mapping) {
    return Optional.ofNullable(program(mapping).joined()).flatMap(joined -> joined.pathIn(PERSON));
  }

  /**
   * A condition as it can be built; as it is written where it cannot.
   *
   * @throws Refusal if it does not compile
   */
  public Condition condition(String cel, Where where) {
    return understood(cel, where, () -> Conditions.of(parse(COMPILER, cel), cel));
  }

  /** The attributes of people, of themselves and their managers, that an expression reads. */
  public SortedSet<String> reads(String expression) {
    return Reads.of(parse(COMPILER, expression));
  }

  /**
   * What a condition comes to for somebody.
   *
   * @param failure why it cannot be computed for them; null if it can. A missing attribute is no
   *     failure: the condition does not hold.
   */
  public record Verdict(boolean holds, String failure) {}

  Verdict verdict(String condition, Map<String, ?> variables) {
    try {
      var program = tried.computeIfAbsent(condition, Expressions::ofPeople);
      return new Verdict(holds(condition, evaluate(program.general(), variables)), null);
    } catch (Failed e) {
      return new Verdict(false, e.getMessage());
    }
  }

  /**
   * That an expression cannot be computed for somebody, for another reason than a missing value.
   */
  static final class Failed extends RuntimeException {
    Failed(String message, Throwable cause) {
      super(message, cause);
    }
  }

  /**
   * Whether a condition holds. An attribute it names that is missing makes it false.
   *
   * @throws Failed if it cannot be computed
   */
  boolean holds(String condition, Map<String, ?> variables) {
    return holds(condition, evaluate(condition, variables));
  }

  private static boolean holds(String condition, Object found) {
    return switch (found) {
      case null -> false;
      case Boolean one -> one;
      default -> throw new Failed(condition + " is neither true nor false", null);
    };
  }

  /**
   * The texts a mapping gives; empty where an attribute it names is missing.
   *
   * @throws Failed if it cannot be computed
   */
  List<String> texts(String mapping, Map<String, ?> variables) {
    return switch (evaluate(mapping, variables)) {
      case null -> List.of();
      case List<?> several ->
          several.stream().map(String::valueOf).filter(s -> !s.isBlank()).toList();
      case Object one when one.toString().isBlank() -> List.of();
      case Object one -> List.of(one.toString());
    };
  }

  private Object evaluate(String expression, Map<String, ?> variables) {
    var program = program(expression);
    return switch (program.joined() == null ? NOT_JOINED : program.joined().of(variables)) {
      case Joined.Outcome.Text(var text) -> text;
      case Joined.Outcome.Missing _ -> null;
      case Joined.Outcome.NotText _ -> evaluate(program.general(), variables);
    };
  }

  private static Object evaluate(CelRuntime.Program program, Map<String, ?> variables) {
    try {
      return program.eval(variables);
    } catch (CelEvaluationException e) {
      if (e.getErrorCode() == CelErrorCode.ATTRIBUTE_NOT_FOUND) {
        // The value is not known, which is no error of the rule.
        return null;
      }
      throw new Failed(plain(e.getMessage()), e);
    }
  }

  /** Without where in the expression: most are one line. */
  private static String plain(String message) {
    return message.replaceFirst("^evaluation error( at [^:]*:\\d+)?: ", "");
  }

  private Program program(String expression) {
    return programs.computeIfAbsent(expression, Expressions::ofPeople);
  }

  private static Program ofPeople(String expression) {
    var tree = parse(COMPILER, expression);
    return new Program(Joined.of(tree).orElse(null), compile(tree));
  }

  /** What is wrong with an expression over rows; empty if nothing is. */
  public Optional<Problem> problemOfRow(String expression, Where where) {
    return ofRows.problem(expression, where, "it may use row, as in row[\"Family name\"].");
  }

  /** What an expression gives for a row; empty where a heading it names is missing. */
  public Optional<String> textOfRow(String expression, Map<String, String> texts) {
    return ofRows.text(expression, texts);
  }

  /** What is wrong with an expression over accounts; empty if nothing is. */
  public Optional<Problem> problemOfAccount(String expression, Where where) {
    return ofAccounts.problem(
        expression, where, "it may use account, as in account[\"emails.work\"].");
  }

  /** What an expression gives for an account; empty where an attribute it names is missing. */
  public Optional<String> textOfAccount(String expression, Map<String, String> texts) {
    return ofAccounts.text(expression, texts);
  }

  /** What is wrong with an expression over a person alone; empty if nothing is. */
  public Optional<Problem> problemOfPerson(String expression, Where where) {
    return ofPersons.problem(
        expression, where, "it may use person, as in fold(person.name.familyName).");
  }

  /** What an expression gives for a person; empty where an attribute it names is missing. */
  public Optional<String> textOfPerson(String expression, Person person) {
    return ofPersons.text(expression, Desire.nested(person));
  }

  /** Expressions over one thing of many values. */
  private static final class OverOne {
    private final String variable;
    private final CelCompiler compiler;
    private final Map<String, CelRuntime.Program> programs = new ConcurrentHashMap<>();

    OverOne(String variable, CelType values) {
      this.variable = variable;
      this.compiler =
          CelCompilerFactory.standardCelCompilerBuilder()
              .setOptions(OPTIONS)
              .setStandardMacros(CelStandardMacro.STANDARD_MACROS)
              .addLibraries(CelExtensions.strings())
              .addVar(variable, MapType.create(SimpleType.STRING, values))
              .addFunctionDeclarations(Functions.DECLARED)
              .build();
    }

    Optional<Problem> problem(String expression, Where where, String mayUse) {
      try {
        program(expression);
        return Optional.empty();
      } catch (IllegalArgumentException e) {
        return Optional.of(
            new Problem(
                "expression-invalid",
                "The expression %s cannot be understood.".formatted(expression),
                e.getMessage(),
                "Correct it; " + mayUse,
                where));
      }
    }

    Optional<String> text(String expression, Map<String, ?> values) {
      try {
        return Optional.of(String.valueOf(program(expression).eval(Map.of(variable, values))));
      } catch (CelEvaluationException _) {
        // As in rules: what is not known is no error of the expression.
        return Optional.empty();
      }
    }

    private CelRuntime.Program program(String expression) {
      return programs.computeIfAbsent(expression, text -> compile(parse(compiler, text)));
    }
  }

  private static CelAbstractSyntaxTree parse(CelCompiler compiler, String expression) {
    try {
      return compiler.compile(expression).getAst();
    } catch (CelValidationException e) {
      throw new IllegalArgumentException(e.getMessage(), e);
    }
  }

  private static CelRuntime.Program compile(CelAbstractSyntaxTree tree) {
    try {
      return RUNTIME.createProgram(tree);
    } catch (CelEvaluationException e) {
      throw new IllegalArgumentException(e.getMessage(), e);
    }
  }
}
