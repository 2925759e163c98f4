package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.AccountView;
import ebb.api.CandidateView;
import ebb.api.ChangeSetView;
import ebb.api.DetailsView;
import ebb.api.LinkedView;
import ebb.api.OtherPerson;
import ebb.api.ReasonRequest;
import ebb.api.TakeRequest;
import java.util.List;
import java.util.Set;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    addMethodSubcommands = false,
    name = "accounts",
    mixinStandardHelpOptions = true,
    description = "Single accounts: whose they are, and what becomes of them.",
    footerHeading = "%nExamples:%n",
    footer = {
      "  ebb findings show directory unmatched",
      "  ebb accounts whose 4711",
      "  ebb accounts link 4711 128",
      "  ebb accounts leave-alone 4711 --reason \"runs the backups\""
    })
final class AccountsCommand {
  private static final String PATH = "/api/v1/accounts/";
  private static final int MOST = 20;

  @ParentCommand private Main main;

  @Command(
      mixinStandardHelpOptions = true,
      description = "One account, and all that its application shows of it now.")
  void show(@Parameters(paramLabel = "ID") long id) {
    var out = main.output();
    var account = main.service().get(PATH + id, AccountView.class);
    var details = main.service().get(PATH + id + "/details", DetailsView.class);
    out.one(
        details,
        () -> {
          out.line(
              "%s in %s, %s, %s",
              account.name(),
              account.application(),
              account.level(),
              account.person() == null ? "nobody's" : "of person " + account.person());
          if (account.leftAlone() != null) {
            out.line(
                "  left as it is: %s (%s, %s)",
                account.leftAlone().why(),
                account.leftAlone().by(),
                Text.time(account.leftAlone().at()));
          }
          if (account.strippedAt() != null) {
            out.line("  stripped of what is personal (%s)", Text.time(account.strippedAt()));
          }
          details
              .values()
              .forEach((name, values) -> out.line("  %s: %s", name, String.join("; ", values)));
          if (details.changedAt() != null) {
            out.line(
                "  last changed there %s%s",
                Text.time(details.changedAt()),
                details.changedBy() == null ? "" : " by " + details.changedBy());
          }
        });
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Whose an account may be that is nobody's, likeliest first.")
  void whose(@Parameters(paramLabel = "ID") long id) {
    main.output()
        .list(
            main.service().list(PATH + id + "/candidates", CandidateView.class, MOST),
            "It is like nobody's. If it is meant to be there: ebb accounts leave-alone %d --reason …"
                .formatted(id),
            List.of(
                column("PERSON", CandidateView::person),
                column("NAME", CandidateView::displayName),
                column("DEPARTMENT", one -> one.department() == null ? "" : one.department()),
                column("BECAUSE", one -> String.join(", ", one.why())),
                column("HAS THERE", one -> one.account() == null ? "" : one.accountName())));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Say whose an account is. Shows what follows; nothing is written there.")
  void link(
      @Parameters(paramLabel = "ID") long id, @Parameters(paramLabel = "PERSON") long person) {
    linked(post(id, "link", new OtherPerson(person)));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Say that an account is not the person's it was given to.")
  void unlink(@Parameters(paramLabel = "ID") long id) {
    linked(post(id, "unlink", null));
  }

  @Command(
      name = "leave-alone",
      mixinStandardHelpOptions = true,
      description = {
        "Leave an account as it is.",
        "One of nobody is technical from now on. One of a person may differ, and is suspended and"
            + " closed all the same."
      })
  void leaveAlone(
      @Parameters(paramLabel = "ID") long id,
      @Option(names = "--reason", required = true, description = "kept with it, and in the journal")
          String reason) {
    linked(post(id, "leave-alone", new ReasonRequest(reason)));
  }

  @Command(mixinStandardHelpOptions = true, description = "Keep an account as it should be, again.")
  void keep(@Parameters(paramLabel = "ID") long id) {
    linked(post(id, "keep", null));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Make values of an account the person's; shows where else they go.")
  void take(
      @Parameters(paramLabel = "ID") long id,
      @Parameters(paramLabel = "ATTRIBUTE", arity = "1..*") Set<String> attributes,
      @Option(names = "--release", description = "release at once") boolean release) {
    var set =
        main.service().post(PATH + id + "/take", new TakeRequest(attributes), ChangeSetView.class);
    new Sets(main).shown(set, release);
  }

  private LinkedView post(long id, String act, Object body) {
    return main.service().post(PATH + id + "/" + act, body, LinkedView.class);
  }

  private void linked(LinkedView linked) {
    var out = main.output();
    out.one(
        linked,
        () -> {
          var account = linked.account();
          out.line(
              "%s in %s is %s%s.",
              account.name(),
              account.application(),
              account.person() == null ? "nobody's" : "person " + account.person() + "'s",
              account.leftAlone() == null ? "" : ", and left as it is");
          if (linked.changeSet() != null) {
            out.line(
                "  What is not as it should be there: ebb changes show %d --all",
                linked.changeSet());
          }
        });
  }
}
