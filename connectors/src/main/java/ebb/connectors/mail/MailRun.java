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
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.eclipse.angus.mail.iap.BadCommandException;
import org.eclipse.angus.mail.iap.CommandFailedException;
import org.eclipse.angus.mail.iap.ProtocolException;

/**
 * Carries some messages over a few connections at once. A message that is there already, by its
 * Message-ID and its content, is not put there again.
 */
final class MailRun {
  /** The server writes one to the disk while the other is read. */
  private static final int LANES = 2;

  private static final int LOCKS = 64;

  private final MailServer server;
  private final String from;
  private final String to;
  private final String place;
  private final Predicate<Carried> each;
  private final Map<String, Target> targets = new HashMap<>();

  /** Two messages that may be the same are not looked for at the same moment. */
  private final Object[] locks = IntStream.range(0, LOCKS).mapToObj(_ -> new Object()).toArray();

  /** A folder at the recipient's, and what was seen in it. */
  private record Target(String folder, Map<String, List<Long>> known) {
    void add(String by, long uid) {
      known.merge(
          by,
          List.of(uid),
          (some, more) -> {
            var all = new ArrayList<>(some);
            all.addAll(more);
            return List.copyOf(all);
          });
    }
  }

  MailRun(MailServer server, String from, String to, String place, Predicate<Carried> each) {
    this.server = server;
    this.from = from;
    this.to = to;
    this.place = place;
    this.each = each;
  }

  void carry(List<Item> items) throws Unreachable {
    var inFolders =
        items.stream()
            .sorted(Comparator.comparing((Item item) -> MessageKey.of(item.id()).folder()))
            .toList();
    Lanes.carry(LANES, inFolders, Pair::new, each);
  }

  /** A connection on each side. */
  private final class Pair implements Lanes.Lane {
    private final Mailbox source = Mailbox.of(server, from);
    private final Mailbox target;

    Pair() throws Unreachable {
      try {
        target = Mailbox.of(server, to);
      } catch (Unreachable e) {
        source.close();
        throw e;
      }
    }

    @Override
    public Carried carry(Item item) throws Unreachable {
      try {
        return carried(item, source, target);
      } catch (ProtocolException | IOException e) {
        throw server.unreachable(e);
      }
    }

    @Override
    public void close() {
      source.close();
      target.close();
    }
  }

  private Carried carried(Item item, Mailbox source, Mailbox target)
      throws ProtocolException, IOException, Unreachable {
    var key = MessageKey.of(item.id());
    if (source.select(key.folder()) != key.validity()) {
      return new NotCarried(item.id(), ItemProblems.gone(item));
    }
    var read = source.read(key.uid());
    if (read.isEmpty()) {
      return new NotCarried(item.id(), ItemProblems.gone(item));
    }
    try (var content = read.get().content()) {
      var into = target(key.folder(), source, target);
      var by = read.get().by();
      synchronized (locks[Math.floorMod(by.hashCode(), LOCKS)]) {
        var there = there(into, by, content.sha256(), target);
        return there.isPresent()
            ? arrived(item, into, there.get(), content.sha256(), target)
            : added(item, read.get(), into, target);
      }
    }
  }

  private Carried arrived(Item item, Target into, long uid, String sha256, Mailbox target)
      throws ProtocolException {
    return new Arrived(
        item.id(),
        new MessageKey(into.folder(), target.select(into.folder()), uid).text(),
        sha256,
        into.folder());
  }

  private Optional<Long> there(Target into, String by, String sha256, Mailbox target)
      throws ProtocolException, IOException {
    target.select(into.folder());
    for (var uid : into.known().getOrDefault(by, List.of())) {
      if (sha256.equals(sha256(target, uid))) {
        return Optional.of(uid);
      }
    }
    return Optional.empty();
  }

  /**
   * @return empty if it is not there
   */
  private static String sha256(Mailbox mailbox, long uid) throws ProtocolException, IOException {
    var read = mailbox.read(uid);
    if (read.isEmpty()) {
      return "";
    }
    try (var content = read.get().content()) {
      return content.sha256();
    }
  }

  private Carried added(Item item, Mailbox.Read read, Target into, Mailbox target)
      throws ProtocolException, IOException, Unreachable {
    try {
      var uid = target.append(into.folder(), read);
      target.select(into.folder());
      var sha256 = read.content().sha256();
      for (var candidate :
          uid.isPresent() ? List.of(uid.getAsLong()) : target.numbers().reversed()) {
        if (sha256.equals(sha256(target, candidate))) {
          into.add(read.by(), candidate);
          return arrived(item, into, candidate, sha256, target);
        }
      }
      return new NotCarried(item.id(), altered(item, into));
    } catch (CommandFailedException | BadCommandException e) {
      if (String.valueOf(e.getMessage()).contains("OVERQUOTA")) {
        throw new Unreachable(full(), e);
      }
      return new NotCarried(item.id(), refused(item, e.getMessage()));
    }
  }

  /** The folder at the recipient's for what lay in one; looked through once. */
  private Target target(String folder, Mailbox source, Mailbox target) throws ProtocolException {
    synchronized (targets) {
      var found = targets.get(folder);
      if (found == null) {
        var name = nameThere(folder, source, target);
        target.create(name);
        target.select(name);
        found =
            new Target(
                name,
                new ConcurrentHashMap<>(
                    target.known(target.numbers()).stream()
                        .collect(
                            Collectors.groupingBy(
                                Mailbox.Known::by,
                                Collectors.mapping(
                                    Mailbox.Known::uid, Collectors.toUnmodifiableList())))));
        targets.put(folder, found);
      }
      return found;
    }
  }

  /** Under the place, with the folders in each other as they were. */
  private String nameThere(String folder, Mailbox source, Mailbox target) throws ProtocolException {
    var theirs = source.own();
    var own = target.own();
    var separator = own == null ? target.separator() : own.delimiter;
    var prefix = own == null ? "" : own.prefix;
    var inner =
        theirs != null && !theirs.prefix.isEmpty() && folder.startsWith(theirs.prefix)
            ? folder.substring(theirs.prefix.length())
            : folder;
    return prefix + place.replace(separator, '-') + separator + inner;
  }

  private static Problem altered(Item item, Target into) {
    return new Problem(
        "item-altered",
        "%s has another checksum in %s.".formatted(item.name(), into.folder()),
        "The server keeps it otherwise than it was sent.",
        "Look at it in both mailboxes; then retry, or leave it out with a reason.",
        null);
  }

  private static Problem refused(Item item, String said) {
    return new Problem(
        "item-refused",
        "%s is not taken.".formatted(item.name()),
        "The server says: " + said,
        "Save it by other means, and leave it out with a reason; or mend it there and retry.",
        null);
  }

  private Problem full() {
    return new Problem(
        "recipient-full",
        "The mailbox of %s is full.".formatted(to),
        "The server takes nothing more (RFC 5530, OVERQUOTA).",
        "Give it more room, or name somebody else; then retry. What has arrived stays.",
        null);
  }
}
