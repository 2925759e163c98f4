package ebb.cli;

import java.lang.reflect.Method;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import picocli.AutoComplete.GenerateCompletion;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;

/**
 * All commands of the client. Making one ready to be read takes longer than it mostly runs, so only
 * the one that is asked for is made; all of them where none is, for help and completion.
 */
final class Commands {
  private static final String COMPLETION = "generate-completion";
  private static final Map<String, Class<?>> ALL = new LinkedHashMap<>();

  static {
    ALL.put("now", NowCommand.class);
    ALL.put("people", PeopleCommand.class);
    ALL.put("imports", ImportsCommand.class);
    ALL.put("changes", ChangesCommand.class);
    ALL.put("accounts", AccountsCommand.class);
    ALL.put("applications", ApplicationsCommand.class);
    ALL.put("findings", FindingsCommand.class);
    ALL.put("compare", CompareCommand.class);
    ALL.put("emergency", EmergencyCommand.class);
    ALL.put("suspensions", SuspensionsCommand.class);
    ALL.put("dormant", DormantCommand.class);
    ALL.put("execution", ExecutionCommand.class);
    ALL.put("units", UnitsCommand.class);
    ALL.put("groups", GroupsCommand.class);
    ALL.put("rules", RulesCommand.class);
    ALL.put("forecast", ForecastCommand.class);
    ALL.put("attributes", AttributesCommand.class);
    ALL.put("sources", SourcesCommand.class);
    ALL.put("feeds", FeedsCommand.class);
    ALL.put("conflicts", ConflictsCommand.class);
    ALL.put("logins", LoginsCommand.class);
    ALL.put("limits", LimitsCommand.class);
    ALL.put("config", ConfigCommand.class);
    ALL.put("departures", DeparturesCommand.class);
    ALL.put("notices", NoticesCommand.class);
    ALL.put("journal", JournalCommand.class);
    ALL.put("tokens", TokensCommand.class);
    ALL.put("secrets", SecretsCommand.class);
    ALL.put("welcome", WelcomeCommand.class);
    ALL.put("clock", ClockCommand.class);
    ALL.put(COMPLETION, GenerateCompletion.class);
  }

  /**
   * @param main the client itself, to which the commands belong
   * @param arguments as they were typed
   */
  static CommandLine line(Main main, List<String> arguments) {
    var line = new CommandLine(main);
    var first = at(arguments, 0);
    if (!first.equals("--version")) {
      asked(first)
          .forEach(name -> line.addSubcommand(name, command(ALL.get(name), at(arguments, 1))));
    }
    return line;
  }

  private static Collection<String> asked(String name) {
    return ALL.containsKey(name) && !name.equals(COMPLETION) ? List.of(name) : ALL.keySet();
  }

  /** A command whose methods are its subcommands: the one asked for, or all. */
  private static CommandLine command(Class<?> type, String subcommand) {
    var command = new CommandLine(type);
    var methods = CommandLine.getCommandMethods(type, null);
    var asked = methods.stream().filter(method -> name(method).equals(subcommand)).toList();
    for (var method : asked.isEmpty() ? methods : asked) {
      command.addSubcommand(name(method), new CommandLine(method));
    }
    return command;
  }

  private static String name(Method method) {
    var given = method.getAnnotation(Command.class).name();
    return given.equals(CommandSpec.DEFAULT_COMMAND_NAME) ? method.getName() : given;
  }

  private static String at(List<String> arguments, int index) {
    return index < arguments.size() ? arguments.get(index) : "";
  }

  private Commands() {}
}
