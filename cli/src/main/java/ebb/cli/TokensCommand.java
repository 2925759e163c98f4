package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.TokenRequest;
import ebb.api.TokenView;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    addMethodSubcommands = false,
    name = "tokens",
    mixinStandardHelpOptions = true,
    description = "Tokens with which programs and people sign in.")
final class TokensCommand {
  private static final String PATH = "/api/v1/tokens";

  @ParentCommand private Main main;

  @Command(mixinStandardHelpOptions = true, description = "All tokens; never their texts.")
  void list() {
    main.output()
        .list(
            main.service().list(PATH, TokenView.class, 1000),
            "There is no token.",
            List.of(
                column("ID", TokenView::id),
                column("OPERATOR", TokenView::operator),
                column("LABEL", TokenView::label),
                column("AT MOST", TokenView::role),
                column("MADE", token -> Text.time(token.createdAt())),
                column(
                    "ENDS",
                    token ->
                        token.expiresAt() == null ? "when revoked" : Text.time(token.expiresAt())),
                column("REVOKED", token -> Text.time(token.revokedAt()))));
  }

  @Command(mixinStandardHelpOptions = true, description = "Make a token; it is shown once.")
  void make(
      @Parameters(paramLabel = "LABEL", description = "what it is for") String label,
      @Option(names = "--days", description = "days until it ends; default when revoked")
          Integer days,
      @Option(names = "--operator", description = "whose it is; default your own") String operator,
      @Option(names = "--role", description = "auditor, helpdesk or steward: less than theirs")
          String role) {
    var made =
        main.service().post(PATH, new TokenRequest(label, days, operator, role), TokenView.class);
    main.output()
        .one(
            made,
            () -> main.output().line("Token %d, shown only now: %s", made.id(), made.token()));
  }

  @Command(mixinStandardHelpOptions = true, description = "Revoke a token at once.")
  void revoke(@Parameters(paramLabel = "ID") long id) {
    main.service().delete(PATH + "/" + id);
    main.output().line("Token %d is revoked.", id);
  }
}
