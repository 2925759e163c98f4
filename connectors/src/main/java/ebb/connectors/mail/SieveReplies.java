package ebb.connectors.mail;

import ebb.connectors.carry.Logins;
import ebb.core.application.Replies;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.io.IOException;
import java.time.LocalDate;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * Automatic replies by a script with vacation (RFC 5230) that ends by its date (RFC 5260). Only one
 * script runs at a time, so that ours takes in the one that ran before (RFC 6609), and says its
 * name.
 */
public final class SieveReplies implements Replies {
  static final String NAME = "ebb-reply";

  private static final String BEFORE = "# before: ";
  private static final Pattern UNTIL =
      Pattern.compile("\"le\" \"date\" \"(\\d{4}-\\d\\d-\\d\\d)\"");
  private static final Pattern SUBJECT = Pattern.compile(":subject \"((?:[^\"\\\\]|\\\\.)*)\"");
  private static final Pattern TEXT =
      Pattern.compile("text:\\r\\n(.*?)\\r\\n\\.\\r\\n", Pattern.DOTALL);

  private final MailServer server;
  private final Logins logins;

  SieveReplies(MailServer server, Logins logins) {
    this.server = server;
    this.logins = logins;
  }

  @Override
  public Optional<Reply> of(String accountId) throws Unreachable {
    try (var sieve = Sieve.of(server, logins.of(accountId))) {
      return sieve.get(NAME).map(SieveReplies::read);
    } catch (IOException e) {
      throw amiss(e);
    }
  }

  @Override
  public void set(String accountId, Reply reply) throws Unreachable {
    try (var sieve = Sieve.of(server, logins.of(accountId))) {
      if (!sieve.offers("vacation") || !sieve.offers("date")) {
        throw new Unreachable(cannotReply(), null);
      }
      var before = before(sieve);
      sieve.put(NAME, script(reply, sieve.offers("include") ? before : "", before));
      sieve.activate(NAME);
    } catch (IOException e) {
      throw amiss(e);
    }
  }

  @Override
  public void takeBack(String accountId) throws Unreachable {
    try (var sieve = Sieve.of(server, logins.of(accountId))) {
      var ours = sieve.scripts().stream().filter(one -> one.name().equals(NAME)).findFirst();
      if (ours.isPresent()) {
        if (ours.get().isActive()) {
          sieve.activate(before(sieve));
        }
        sieve.delete(NAME);
      }
    } catch (IOException e) {
      throw amiss(e);
    }
  }

  /** The script that runs beside ours; the empty text for none, or if it is not there any more. */
  private static String before(Sieve sieve) throws IOException {
    var scripts = sieve.scripts();
    var active = scripts.stream().filter(Sieve.Script::isActive).findFirst();
    if (active.isPresent() && !active.get().name().equals(NAME)) {
      return active.get().name();
    }
    var noted =
        sieve
            .get(NAME)
            .flatMap(script -> script.lines().filter(line -> line.startsWith(BEFORE)).findFirst())
            .map(line -> line.substring(BEFORE.length()))
            .orElse("");
    return scripts.stream().anyMatch(one -> one.name().equals(noted)) ? noted : "";
  }

  /**
   * @param included the script that goes on beside it; empty for none
   * @param before the script that is to run again afterwards; empty for none
   */
  private static String script(Reply reply, String included, String before) {
    return String.join(
        "\r\n",
        "# Set by Ebb. It ends by itself, and is taken back by Ebb.",
        BEFORE + before,
        "require [\"vacation\", \"date\", \"relational\"%s];"
            .formatted(included.isEmpty() ? "" : ", \"include\""),
        "if currentdate :value \"le\" \"date\" \"%s\" {".formatted(reply.until()),
        "  vacation :days 7 :subject %s text:".formatted(quoted(reply.subject())),
        dotted(reply.text()),
        ".",
        ";",
        "}",
        included.isEmpty() ? "" : "include :personal %s;".formatted(quoted(included)),
        "");
  }

  private static Reply read(String script) {
    var until = UNTIL.matcher(script);
    var subject = SUBJECT.matcher(script);
    var text = TEXT.matcher(script);
    return new Reply(
        subject.find() ? subject.group(1).replaceAll("\\\\(.)", "$1") : "",
        text.find() ? text.group(1).replace("\r\n..", "\r\n.").replace("\r\n", "\n") : "",
        until.find() ? LocalDate.parse(until.group(1)) : LocalDate.MAX);
  }

  private static String quoted(String text) {
    return "\"" + text.replaceAll("\\s+", " ").replace("\\", "\\\\").replace("\"", "\\\"") + "\"";
  }

  /** A line that begins with a dot would end the text (RFC 5228, 2.4.2). */
  private static String dotted(String text) {
    return text.lines()
        .map(line -> line.startsWith(".") ? "." + line : line)
        .collect(Collectors.joining("\r\n"));
  }

  private Unreachable amiss(IOException e) {
    return e instanceof Sieve.Refused ? new Unreachable(refused(e), e) : server.unreachable(e);
  }

  private Problem refused(IOException e) {
    return new Problem(
        "reply-refused",
        "The mail server of %s does not take the automatic reply.".formatted(server.application()),
        "It says: " + e.getMessage(),
        "Correct the text, or see what it has against the script.",
        null);
  }

  private Problem cannotReply() {
    return new Problem(
        "reply-not-possible",
        "The mail server of %s cannot reply for a time.".formatted(server.application()),
        "Its scripts have no vacation (RFC 5230), or no date (RFC 5260).",
        "Have that switched on there, or take the setting replies out.",
        null);
  }
}
