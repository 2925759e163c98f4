package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.AttributeEdit;
import ebb.api.AttributeView;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    addMethodSubcommands = false,
    name = "attributes",
    mixinStandardHelpOptions = true,
    description = "What can be said of a person; an organisation defines its own.",
    footerHeading = "%nExamples:%n",
    footer = {
      "  ebb attributes define campus --type choice --choice North --choice South --searchable",
      "  ebb people list --filter 'campus eq \"North\"'"
    })
final class AttributesCommand {
  private static final String PATH = "/api/v1/attributes";

  @ParentCommand private Main main;

  @Command(mixinStandardHelpOptions = true, description = "All attributes.")
  void list() {
    main.output()
        .list(
            main.service().list(PATH, AttributeView.class, 1000),
            "There are none.",
            List.of(
                column("NAME", AttributeView::name),
                column("TYPE", AttributeView::type),
                column("REQUIRED", attribute -> attribute.required() ? "yes" : ""),
                column("IF NOTHING IS SAID", AttributeView::fallback),
                column("CHOICES", attribute -> String.join(", ", attribute.choices())),
                column("BY HAND", AttributeView::byHand),
                column("WHOSE", attribute -> attribute.own() ? "own" : "standard")));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Define an attribute of your own, or define it anew.")
  void define(
      @Parameters(paramLabel = "NAME") String name,
      @Option(names = "--type", required = true, description = "text, number, date, yes-no, choice")
          String type,
      @Option(names = "--required", description = "nobody can be created without it")
          boolean required,
      @Option(names = "--if-nothing-is-said", description = "what a new person gets then")
          String fallback,
      @Option(names = "--searchable", description = "people can be filtered by it")
          boolean searchable,
      @Option(names = "--by-hand", description = "allowed, dated or forbidden; default allowed")
          String byHand,
      @Option(names = "--choice", description = "a value of a choice; may be given again")
          List<String> choices) {
    var made = put(name, new AttributeEdit(type, required, fallback, searchable, byHand, choices));
    main.output()
        .one(made, () -> main.output().line("%s is defined: %s.", made.name(), made.type()));
  }

  @Command(
      name = "by-hand",
      mixinStandardHelpOptions = true,
      description =
          "Whether operators may say something else of an attribute than its sources do: allowed,"
              + " dated (up to a day they name) or forbidden.",
      footer = "%n  ebb attributes by-hand title dated")
  void byHand(
      @Parameters(paramLabel = "NAME", index = "0") String name,
      @Parameters(paramLabel = "WORD", index = "1", description = "allowed, dated or forbidden")
          String word) {
    var now =
        main.service().list(PATH, AttributeView.class, 1000).items().stream()
            .filter(one -> one.name().equals(name))
            .findFirst();
    var edit =
        now.map(
                one ->
                    new AttributeEdit(
                        one.type(),
                        one.required(),
                        one.fallback(),
                        one.searchable(),
                        word,
                        one.choices()))
            .orElse(new AttributeEdit(null, false, null, false, word, null));
    var made = put(name, edit);
    main.output()
        .one(made, () -> main.output().line("Setting %s by hand is %s.", name, made.byHand()));
  }

  private AttributeView put(String name, AttributeEdit edit) {
    return main.service()
        .write("PUT", PATH + "/" + Service.encoded(name), edit, AttributeView.class);
  }
}
