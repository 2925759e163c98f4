package ebb.connectors.mail;

import ebb.connectors.carry.Logins;
import ebb.connectors.carry.Past;
import ebb.core.application.Carrier;
import ebb.core.application.Ownership.Item;
import ebb.core.application.Unreachable;
import java.io.IOException;
import java.io.OutputStream;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.OptionalLong;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Predicate;
import org.eclipse.angus.mail.iap.CommandFailedException;
import org.eclipse.angus.mail.iap.ProtocolException;

/** Carries mail from one mailbox to another on the same server, or lets it be read there. */
public final class MailCarrier implements Carrier {
  static final String KIND = "mail";

  private final MailServer server;
  private final Logins logins;
  private final boolean shares;
  private final Past past;

  /**
   * @param shares whether it is not copied, but can be read where it is
   * @param past by when messages were received
   */
  MailCarrier(MailServer server, Logins logins, boolean shares, Past past) {
    this.server = server;
    this.logins = logins;
    this.shares = shares;
    this.past = past;
  }

  @Override
  public Set<String> kinds() {
    return past.kinds();
  }

  @Override
  public void items(String accountId, Consumer<Item> each) throws Unreachable {
    var login = logins.of(accountId);
    try (var mailbox = Mailbox.of(server, login)) {
      for (var folder : mailbox.folders()) {
        var validity = opened(mailbox, login, folder.name);
        for (var message : mailbox.listed(mailbox.numbers())) {
          each.accept(item(folder.name, validity, message));
        }
      }
    } catch (ProtocolException e) {
      throw server.unreachable(e);
    }
  }

  private long opened(Mailbox mailbox, String login, String folder)
      throws ProtocolException, Unreachable {
    try {
      return mailbox.select(folder);
    } catch (CommandFailedException e) {
      throw server.notOpened(login, folder, e);
    }
  }

  /** What it is about is nobody's business but its reader's: a message is named by its day. */
  private Item item(String folder, long validity, Mailbox.Listed message) {
    return new Item(
        new MessageKey(folder, validity, message.uid()).text(),
        past.kindOf(message.received() == null ? null : message.received().toInstant()),
        "%s, message of %s".formatted(folder, day(message)),
        message.bytes(),
        "",
        true);
  }

  private static String day(Mailbox.Listed message) {
    return message.received() == null
        ? "an unknown day"
        : Instant.ofEpochMilli(message.received().getTime())
            .atZone(ZoneOffset.UTC)
            .toLocalDate()
            .toString();
  }

  @Override
  public boolean open(String accountId, String item, OutputStream to) throws Unreachable {
    var key = MessageKey.of(item);
    var login = logins.of(accountId);
    try (var mailbox = Mailbox.of(server, login)) {
      if (opened(mailbox, login, key.folder()) != key.validity()) {
        return false;
      }
      var read = mailbox.read(key.uid());
      if (read.isPresent()) {
        try (var content = read.get().content()) {
          content.writeTo(to);
        }
      }
      return read.isPresent();
    } catch (IOException | ProtocolException e) {
      throw server.unreachable(e);
    }
  }

  @Override
  public OptionalLong room(String accountId) throws Unreachable {
    if (shares) {
      return OptionalLong.empty();
    }
    try (var mailbox = Mailbox.of(server, logins.of(accountId))) {
      return mailbox.room();
    } catch (ProtocolException e) {
      throw server.unreachable(e);
    }
  }

  @Override
  public void carry(Route route, List<Item> items, Predicate<Carried> each) throws Unreachable {
    var from = logins.of(route.from());
    var to = logins.of(route.to());
    if (shares) {
      MailShare.share(server, from, to, items, each);
    } else {
      new MailRun(server, from, to, route.place(), each).carry(items);
    }
  }
}
