package ebb.core.rule;

import dev.cel.common.CelAbstractSyntaxTree;
import dev.cel.common.CelOptions;
import dev.cel.common.CelValidationException;
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
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;

/** Compiles and evaluates CEL (Common Expression Language). Programs are kept and shared. */
public final class Expressions {
  /** An expression may take this many steps; a slip must not hold up everybody else. */
  private static final int COST_LIMIT = 10_000;

  private static final CelOptions OPTIONS =
      CelOptions.current().comprehensionMaxIterations(COST_LIMIT).build();
  private static final CelCompiler COMPILER =
      CelCompilerFactory.standardCelCompilerBuilder()
          .setOptions(OPTIONS)
          .setStandardMacros(CelStandardMacro.STANDARD_MACROS)
          .addVar("person", MapType.create(SimpleType.STRING, SimpleType.DYN))
          .addVar("manager", MapType.create(SimpleType.STRING, SimpleType.DYN))
          .addVar("login", SimpleType.STRING)
          .addVar("aliases", ListType.create(SimpleType.STRING))
          .build();

  /** Of a row of a source: the texts of its cells by their headings. */
  private static final CelCompiler OF_ROWS =
      CelCompilerFactory.standardCelCompilerBuilder()
          .setOptions(OPTIONS)
          .setStandardMacros(CelStandardMacro.STANDARD_MACROS)
          .addLibraries(CelExtensions.strings())
          .addVar("row", MapType.create(SimpleType.STRING, SimpleType.STRING))
          .build();

  private static final CelRuntime RUNTIME =
      CelRuntimeFactory.standardCelRuntimeBuilder()
          .setOptions(OPTIONS)
          .addLibraries(CelExtensions.strings())
          .build();

  private static final Joined.Outcome NOT_JOINED = new Joined.Outcome.NotText();

  /**
   * @param joined null where the expression does more than putting texts together
   */
  private record Program(Joined joined, CelRuntime.Program general) {}

  private final Map<String, Program> programs = new ConcurrentHashMap<>();
  private final Map<String, CelRuntime.Program> programsOfRows = new ConcurrentHashMap<>();

  /**
   * @throws Refusal if the expression does not compile; names the place in it
   */
  public void check(String expression, Where where) {
    try {
      program(expression);
    } catch (IllegalArgumentException e) {
      throw Refusal.invalid(
          new Problem(
              "expression-invalid",
              "The expression %s cannot be understood.".formatted(expression),
              e.getMessage(),
              "Correct it; it may use person, manager, login and aliases.",
              where));
    }
  }

  /** Whether a condition holds. An attribute it names that is missing makes it false. */
  boolean holds(String condition, Map<String, ?> variables) {
    return Boolean.TRUE.equals(evaluate(condition, variables));
  }

  /** The texts a mapping gives; empty where an attribute it names is missing. */
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
    } catch (CelEvaluationException _) {
      // A missing attribute ends here: the value is not known, which is no error of the rule.
      return null;
    }
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
    try {
      programOfRow(expression);
      return Optional.empty();
    } catch (IllegalArgumentException e) {
      return Optional.of(
          new Problem(
              "expression-invalid",
              "The expression %s cannot be understood.".formatted(expression),
              e.getMessage(),
              "Correct it; it may use row, as in row[\"Family name\"].",
              where));
    }
  }

  /** What an expression gives for a row; empty where a heading it names is missing. */
  public Optional<String> textOfRow(String expression, Map<String, String> texts) {
    try {
      return Optional.of(String.valueOf(programOfRow(expression).eval(Map.of("row", texts))));
    } catch (CelEvaluationException _) {
      // As in rules: what is not known is no error of the expression.
      return Optional.empty();
    }
  }

  private CelRuntime.Program programOfRow(String expression) {
    return programsOfRows.computeIfAbsent(expression, text -> compile(parse(OF_ROWS, text)));
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
