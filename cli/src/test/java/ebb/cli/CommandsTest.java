package ebb.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.testng.annotations.Test;
import picocli.CommandLine;

public class CommandsTest {
  private static CommandLine line(String... arguments) {
    return Commands.line(new Main(), List.of(arguments));
  }

  private static String usage(CommandLine line, String command, String subcommand) {
    return line.getSubcommands().get(command).getSubcommands().get(subcommand).getUsageMessage();
  }

  @Test
  public void completionKnowsEveryCommandAndItsSubcommands() {
    var all = line("generate-completion").getSubcommands();
    assertThat(all).hasSizeGreaterThan(25);
    assertThat(all.get("people").getSubcommands()).containsKeys("list", "sign-ins");
  }

  @Test
  public void aCommandReadsTheSameAloneAndAmongAllOthers() {
    var all = line();
    int compared = 0;
    for (var command : all.getSubcommands().entrySet()) {
      for (var subcommand : command.getValue().getSubcommands().keySet()) {
        var alone = line(command.getKey(), subcommand);
        assertThat(alone.getSubcommands()).containsOnlyKeys(command.getKey());
        assertThat(alone.getSubcommands().get(command.getKey()).getSubcommands())
            .containsOnlyKeys(subcommand);
        assertThat(usage(alone, command.getKey(), subcommand))
            .isEqualTo(usage(all, command.getKey(), subcommand));
        compared++;
      }
    }
    assertThat(compared).isGreaterThan(120);
  }

  @Test
  public void aMisspeltSubcommandIsReadAmongAllSoThatTheRightOneCanBeNamed() {
    assertThat(line("people", "lst").getSubcommands().get("people").getSubcommands())
        .containsKeys("list", "show");
  }
}
