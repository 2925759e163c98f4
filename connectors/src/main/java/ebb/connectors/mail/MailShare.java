package ebb.connectors.mail;

import ebb.connectors.carry.ItemProblems;
import ebb.connectors.carry.Lanes;
import ebb.core.application.Carrier.Arrived;
import ebb.core.application.Carrier.Carried;
import ebb.core.application.Carrier.NotCarried;
import ebb.core.application.Ownership.Item;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.io.IOException;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import org.eclipse.angus.mail.iap.CommandFailedException;
import org.eclipse.angus.mail.iap.ProtocolException;

/**
 * Lets somebody read the folders of another mailbox that stays (RFC 4314). That each message can be
 * read is seen with the eyes of whoever may read it from then on.
 */
final class MailShare implements Lanes.Lane {
  private final MailServer server;
  private final String from;
  private final String to;
  private final Set<String> shared = new HashSet<>();
  private final Mailbox source;
  private final Mailbox target;

  private MailShare(MailServer server, String from, String to) throws Unreachable {
    this.server = server;
    this.from = from;
    this.to = to;
    this.source = Mailbox.of(server, from);
    try {
      this.target = Mailbox.of(server, to);
    } catch (Unreachable e) {
      source.close();
      throw e;
    }
  }

  static void share(
      MailServer server, String from, String to, List<Item> items, Predicate<Carried> each)
      throws Unreachable {
    Lanes.carry(1, items, () -> new MailShare(server, from, to), each);
  }

  @Override
  public Carried carry(Item item) throws Unreachable {
    var key = MessageKey.of(item.id());
    try {
      if (source.select(key.folder()) != key.validity()) {
        return new NotCarried(item.id(), ItemProblems.gone(item));
      }
      share(key.folder());
      var there = there(key.folder());
      var same = sha256(source, key.folder(), key.uid());
      if (same.isEmpty()) {
        return new NotCarried(item.id(), ItemProblems.gone(item));
      }
      return same.equals(sha256(target, there, key.uid()))
          ? new Arrived(
              item.id(), new MessageKey(there, key.validity(), key.uid()).text(), same, there)
          : new NotCarried(item.id(), notRead(item, there));
    } catch (CommandFailedException e) {
      return new NotCarried(item.id(), refused(item, e.getMessage()));
    } catch (ProtocolException | IOException e) {
      throw server.unreachable(e);
    }
  }

  private void share(String folder) throws ProtocolException, Unreachable {
    if (!shared.contains(folder)) {
      if (!source.letRead(folder, to)) {
        throw new Unreachable(notOffered(), null);
      }
      shared.add(folder);
    }
  }

  /** What a folder of one is called in the mailbox of the other (RFC 2342). */
  private String there(String folder) throws ProtocolException, Unreachable {
    var others = target.others();
    if (others.isEmpty()) {
      throw new Unreachable(notOffered(), null);
    }
    return others.get().prefix + from + others.get().delimiter + folder;
  }

  private static String sha256(Mailbox mailbox, String folder, long uid)
      throws ProtocolException, IOException {
    mailbox.select(folder);
    var read = mailbox.read(uid);
    if (read.isEmpty()) {
      return "";
    }
    try (var content = read.get().content()) {
      return content.sha256();
    }
  }

  @Override
  public void close() {
    source.close();
    target.close();
  }

  private Problem notOffered() {
    return new Problem(
        "sharing-not-offered",
        "The mail server of %s lets nobody read the folders of another."
            .formatted(server.application()),
        "It offers no ACL (RFC 4314), or shows no folders of others (RFC 2342).",
        "Have that switched on there, or leave out mailShare, so that mail is copied.",
        null);
  }

  private Problem notRead(Item item, String there) {
    return new Problem(
        "item-not-read-there",
        "%s cannot be read by %s in %s.".formatted(item.name(), to, there),
        "The right to do so was given, and has no effect.",
        "See what else keeps them from it there; then retry.",
        null);
  }

  private static Problem refused(Item item, String said) {
    return new Problem(
        "item-refused",
        "%s cannot be shared.".formatted(item.name()),
        "The server says: " + said,
        "Give Ebb the right to administer that folder (a, RFC 4314); then retry.",
        null);
  }
}
