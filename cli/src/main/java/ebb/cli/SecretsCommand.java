package ebb.cli;

import picocli.CommandLine.Command;
import picocli.CommandLine.ParentCommand;

@Command(
    addMethodSubcommands = false,
    name = "secrets",
    mixinStandardHelpOptions = true,
    description = "The key under which passwords and tokens are sealed.")
final class SecretsCommand {
  @ParentCommand private Main main;

  @Command(
      mixinStandardHelpOptions = true,
      description = {
        "Seal all secrets under a new key, and forget the old one.",
        "Backups from before need the secret.key that was backed up with them."
      })
  void rotate() {
    main.service().post("/api/v1/secrets/rotation", null, Void.class);
    main.output()
        .line("All secrets are sealed under a new key. Back up secret.key with the next backup.");
  }
}
