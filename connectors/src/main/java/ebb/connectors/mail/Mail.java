package ebb.connectors.mail;

import ebb.connectors.carry.Logins;
import ebb.connectors.carry.Past;
import ebb.core.application.Carrier;
import ebb.core.application.Inspection.Tried;
import ebb.core.application.Part;
import ebb.core.application.Replies;
import ebb.core.application.Secrets;
import java.io.IOException;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;

/** The mail server that stands beside an application, as its settings say. */
public final class Mail {
  private final Optional<MailServer> mailboxes;
  private final Optional<MailServer> scripts;
  private final Logins logins;
  private final boolean shares;
  private final Past past;

  /**
   * @param logins what mailboxes are called
   */
  public Mail(String application, Map<String, String> settings, Secrets secrets, Logins logins) {
    mailboxes = at(application, MailSettings.MAIL, settings, secrets);
    scripts = at(application, MailSettings.REPLIES, settings, secrets);
    this.logins = logins;
    this.shares = MailSettings.YES.equals(settings.get(MailSettings.SHARE));
    this.past = Past.of(MailCarrier.KIND, settings, MailSettings.PAST_AFTER);
  }

  private static Optional<MailServer> at(
      String application, String setting, Map<String, String> settings, Secrets secrets) {
    return Optional.ofNullable(settings.get(setting))
        .map(address -> MailServer.at(application, address, settings, secrets));
  }

  public boolean isThere() {
    return mailboxes.isPresent() || scripts.isPresent();
  }

  public Optional<Carrier> carrier() {
    return mailboxes.map(server -> new MailCarrier(server, logins, shares, past));
  }

  public Optional<Replies> replies() {
    return scripts.map(server -> new SieveReplies(server, logins));
  }

  /** Whether they are there at all: whose mailboxes Ebb may open is seen with the first one. */
  public List<Supplier<Tried>> looks() {
    var looks = new ArrayList<Supplier<Tried>>();
    mailboxes.ifPresent(
        server -> looks.add(() -> look(server, "reach the mail server", Part.OWNERSHIP)));
    scripts.ifPresent(
        server -> looks.add(() -> look(server, "reach where replies are set", Part.REPLIES)));
    return looks;
  }

  private static Tried look(MailServer server, String what, Part part) {
    try (var socket = new Socket()) {
      server.checkPlace();
      socket.connect(
          new InetSocketAddress(server.host(), server.port()),
          Math.toIntExact(server.patience().toMillis()));
      return Tried.works(what);
    } catch (IOException e) {
      var unreachable = server.unreachable(e);
      return new Tried(what, unreachable.problem(), part.without());
    }
  }
}
