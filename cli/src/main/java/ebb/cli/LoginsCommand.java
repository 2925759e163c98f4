package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.LoginSchemeEdit;
import ebb.api.LoginSchemeView;
import ebb.api.LoginTrialView;
import java.util.List;
import java.util.Set;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParentCommand;

@Command(
    addMethodSubcommands = false,
    name = "logins",
    mixinStandardHelpOptions = true,
    description = "How the names are made by which people sign in.",
    footerHeading = "%nExamples:%n",
    footer = {
      "  ebb logins try --made-of 'fold(person.name.givenName).substring(0, 1) + fold(person.name.familyName)'",
      "  ebb logins set --made-of 'initials(person.displayName) + pad(person.employeeNumber, 4)' --longest 8",
      "  ebb logins set                                 as usual again: given.family"
    })
final class LoginsCommand {
  private static final String PATH = "/api/v1/login-schemes";
  private static final String LOGIN = PATH + "/login";

  @ParentCommand private Main main;

  /** A way of making logins. */
  static final class Scheme {
    @Option(
        names = "--made-of",
        description =
            "CEL over person; given again, what is taken where the one before is not free")
    List<String> expressions;

    @Option(names = "--longest", description = "characters; 20 if nothing is said")
    Integer longest;

    @Option(names = "--reserve", split = ",", description = "names nobody is given")
    Set<String> reserved;

    @Option(
        names = "--rest",
        paramLabel = "DAYS",
        description =
            "how long the names of whoever was forgotten are given to nobody else; 365 if nothing"
                + " is said")
    Integer restDays;

    LoginSchemeEdit edit(String reason) {
      return new LoginSchemeEdit(expressions, longest, reserved, restDays, reason);
    }
  }

  @Command(mixinStandardHelpOptions = true, description = "The scheme in force.")
  void show() {
    show(main.service().list(PATH, LoginSchemeView.class, 1).items().getFirst());
  }

  @Command(
      name = "try",
      mixinStandardHelpOptions = true,
      description = "What the people who came last would be called; nothing is kept.")
  void attempt(@ArgGroup(exclusive = false) Scheme scheme) {
    var wanted = (scheme == null ? new Scheme() : scheme).edit(null);
    main.output()
        .list(
            main.service().postForAll(LOGIN + "/try", wanted, LoginTrialView.class),
            "Nobody is known yet.",
            List.of(
                column("PERSON", LoginTrialView::person),
                column("NAME", LoginTrialView::displayName),
                column("LOGIN NOW", LoginTrialView::login),
                column("WOULD BE", LoginTrialView::wouldBe)));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Make logins so, for whoever comes or is renamed from now on.")
  void set(
      @ArgGroup(exclusive = false) Scheme scheme,
      @Option(names = "--reason", description = "goes into the journal") String reason) {
    var wanted = (scheme == null ? new Scheme() : scheme).edit(reason);
    show(main.service().write("PUT", LOGIN, wanted, LoginSchemeView.class));
  }

  private void show(LoginSchemeView scheme) {
    main.output()
        .one(
            scheme,
            () -> {
              main.output()
                  .line(
                      "Logins are %s, %d characters at most.",
                      scheme.expressions().isEmpty()
                          ? "given.family"
                          : String.join(", else ", scheme.expressions()),
                      scheme.longest());
              main.output().line("Where all are taken, a number follows.");
              if (!scheme.reserved().isEmpty()) {
                main.output().line("Nobody is called %s.", String.join(", ", scheme.reserved()));
              }
              main.output()
                  .line("Names of people who were forgotten rest for %,d days.", scheme.restDays());
              if (scheme.setBy() != null) {
                main.output().line("Set by %s on %s.", scheme.setBy(), Text.time(scheme.setAt()));
              }
              main.output().line("Whoever has a login keeps it until they are renamed.");
            });
  }
}
