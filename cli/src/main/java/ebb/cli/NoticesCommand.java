package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.NoticeView;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParentCommand;

@Command(
    addMethodSubcommands = false,
    name = "notices",
    mixinStandardHelpOptions = true,
    description = "Messages that Ebb sends to people.")
final class NoticesCommand {
  @ParentCommand private Main main;

  @Command(mixinStandardHelpOptions = true, description = "Notices, newest first.")
  void list(
      @Option(names = "--person", description = "only about this person") Long person,
      @Option(names = "--limit", defaultValue = "50") int limit) {
    main.output()
        .list(
            main.service()
                .list(
                    "/api/v1/notices" + (person == null ? "" : "?person=" + person),
                    NoticeView.class,
                    limit),
            "No notice was sent yet.",
            List.of(
                column("ID", NoticeView::id),
                column("ABOUT", NoticeView::displayName),
                column("TO", notice -> Text.orDash(notice.recipient())),
                column("SUBJECT", NoticeView::subject),
                column("STATE", NoticeView::state),
                column(
                    "WHEN",
                    notice ->
                        Text.time(notice.sentAt() == null ? notice.createdAt() : notice.sentAt())),
                column("", notice -> notice.problem() == null ? "" : notice.problem().what())));
  }
}
