package ebb.connectors.mail;

import ebb.connectors.carry.Content;
import ebb.core.application.Unreachable;
import jakarta.mail.Flags;
import jakarta.mail.Quota;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Date;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Properties;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.eclipse.angus.mail.iap.CommandFailedException;
import org.eclipse.angus.mail.iap.Literal;
import org.eclipse.angus.mail.iap.ProtocolException;
import org.eclipse.angus.mail.iap.Response;
import org.eclipse.angus.mail.imap.ACL;
import org.eclipse.angus.mail.imap.Rights;
import org.eclipse.angus.mail.imap.protocol.BODY;
import org.eclipse.angus.mail.imap.protocol.FLAGS;
import org.eclipse.angus.mail.imap.protocol.FetchResponse;
import org.eclipse.angus.mail.imap.protocol.IMAPProtocol;
import org.eclipse.angus.mail.imap.protocol.IMAPResponse;
import org.eclipse.angus.mail.imap.protocol.INTERNALDATE;
import org.eclipse.angus.mail.imap.protocol.ListInfo;
import org.eclipse.angus.mail.imap.protocol.Namespaces.Namespace;
import org.eclipse.angus.mail.imap.protocol.RFC822SIZE;
import org.eclipse.angus.mail.imap.protocol.UID;
import org.eclipse.angus.mail.util.MailLogger;

/** One connection, signed in for the owner of one mailbox. For one thread at a time. */
final class Mailbox implements AutoCloseable {
  private static final String NAME = "imap";

  /** Of messages whose sizes or headers are asked at once. */
  private static final int PAGE = 500;

  private static final int CHUNK = 1 << 20;
  private static final Namespace NO_NAMESPACE = null;

  /** A message as its folder lists it. */
  record Listed(long uid, long bytes, Date received) {}

  /**
   * A message as it was read.
   *
   * @param content to be closed
   * @param by what it is known by, as for Known
   */
  record Read(Content content, Flags flags, Date received, String by) {}

  private final IMAPProtocol imap;
  private String selected;
  private long validity;

  private Mailbox(IMAPProtocol imap) {
    this.imap = imap;
  }

  /**
   * @param login whose mailbox it is
   */
  static Mailbox of(MailServer server, String login) throws Unreachable {
    try {
      server.checkPlace();
      var imap =
          new IMAPProtocol(
              NAME,
              server.host(),
              server.port(),
              properties(server),
              server.security() == MailServer.Security.TLS,
              new MailLogger(
                  Mailbox.class, "", false, new PrintStream(OutputStream.nullOutputStream())));
      var mailbox = new Mailbox(imap);
      try {
        mailbox.signIn(server, login);
        return mailbox;
      } catch (Unreachable | ProtocolException | RuntimeException e) {
        mailbox.close();
        throw e;
      }
    } catch (IOException | ProtocolException e) {
      throw server.unreachable(e);
    }
  }

  private static Properties properties(MailServer server) throws IOException {
    var all = new Properties();
    var patience = String.valueOf(server.patience().toMillis());
    all.put("mail.imap.connectiontimeout", patience);
    all.put("mail.imap.timeout", patience);
    all.put("mail.imap.writetimeout", patience);
    all.put("mail.imap.ssl.checkserveridentity", "true");
    if (server.security() != MailServer.Security.NONE) {
      all.put("mail.imap.ssl.socketFactory", server.context().getSocketFactory());
    }
    return all;
  }

  private void signIn(MailServer server, String login) throws ProtocolException, Unreachable {
    if (server.security() == MailServer.Security.STARTTLS) {
      if (!imap.hasCapability("STARTTLS")) {
        throw server.notSecure();
      }
      imap.startTLS();
      imap.capability();
    }
    try {
      imap.authplain(
          server.user().isEmpty() ? null : login,
          server.user().isEmpty() ? login : server.user(),
          server.password().reveal());
    } catch (CommandFailedException e) {
      throw server.notSignedIn(login, e.getMessage());
    }
    imap.capability();
  }

  /** Folders of this mailbox that hold messages; those shared by others are not its own. */
  List<ListInfo> folders() throws ProtocolException {
    var foreign = foreign();
    return Stream.of(Optional.ofNullable(imap.list("", "*")).orElse(new ListInfo[0]))
        .filter(folder -> folder.canOpen)
        .filter(folder -> foreign.stream().noneMatch(folder.name::startsWith))
        .toList();
  }

  /** RFC 2342. */
  private List<String> foreign() throws ProtocolException {
    if (!imap.hasCapability("NAMESPACE")) {
      return List.of();
    }
    var all = imap.namespace();
    return Stream.of(all.otherUsers, all.shared)
        .filter(spaces -> spaces != null)
        .flatMap(Arrays::stream)
        .map(space -> space.prefix)
        .filter(prefix -> !prefix.isEmpty())
        .toList();
  }

  /** Where folders of others are shown; empty where they are not (RFC 2342). */
  Optional<Namespace> others() throws ProtocolException {
    if (!imap.hasCapability("NAMESPACE")) {
      return Optional.empty();
    }
    return Stream.of(Optional.ofNullable(imap.namespace().otherUsers).orElse(new Namespace[0]))
        .findFirst();
  }

  /**
   * Adds the rights to see a folder and read in it, and to keep what was read apart (RFC 4314,
   * 2.1).
   *
   * @return false if the server knows no such rights
   */
  boolean letRead(String folder, String login) throws ProtocolException {
    if (!imap.hasCapability("ACL")) {
      return false;
    }
    imap.setACL(folder, '+', new ACL(login, new Rights("lrs")));
    return true;
  }

  /** What stands before the names of folders, and between their parts (RFC 2342). */
  Namespace own() throws ProtocolException {
    if (!imap.hasCapability("NAMESPACE")) {
      return NO_NAMESPACE;
    }
    var personal = imap.namespace().personal;
    return personal == null || personal.length == 0 ? NO_NAMESPACE : personal[0];
  }

  /** Between the parts of names, where there are no namespaces. */
  char separator() throws ProtocolException {
    var inbox = imap.list("", "INBOX");
    return inbox == null || inbox.length == 0 || inbox[0].separator == '\0'
        ? '/'
        : inbox[0].separator;
  }

  /** Makes a folder and shows it to its owner; one that is there stays as it is. */
  void create(String folder) throws ProtocolException {
    var there = imap.list("", folder);
    if (there == null || Stream.of(there).noneMatch(one -> one.name.equals(folder))) {
      imap.create(folder);
    }
    imap.subscribe(folder);
  }

  /**
   * @return its validity: as long as it is the same, numbers of messages are (RFC 9051, 2.3.1.1)
   */
  long select(String folder) throws ProtocolException {
    if (!folder.equals(selected)) {
      selected = null;
      validity = imap.examine(folder).uidvalidity;
      selected = folder;
    }
    return validity;
  }

  /** Numbers of all messages of the selected folder, in their order. */
  List<Long> numbers() throws ProtocolException {
    var found = new ArrayList<Long>();
    for (var response : command("UID SEARCH ALL")) {
      if (response instanceof IMAPResponse line && line.keyEquals("SEARCH")) {
        for (var number = line.readLong(); number != -1; number = line.readLong()) {
          found.add(number);
        }
      }
    }
    return found;
  }

  /** Those of the selected folder that are still there. */
  List<Listed> listed(List<Long> uids) throws ProtocolException {
    var all = new ArrayList<Listed>();
    for (var page : pages(uids)) {
      for (var message : fetched(page, "UID RFC822.SIZE INTERNALDATE")) {
        all.add(
            new Listed(
                message.getItem(UID.class).uid,
                message.getItem(RFC822SIZE.class).size,
                message.getItem(INTERNALDATE.class).getDate()));
      }
    }
    return all;
  }

  /** A message of the selected folder, by what it is known: its Message-ID, or else its size. */
  record Known(long uid, String by) {}

  List<Known> known(List<Long> uids) throws ProtocolException {
    var all = new ArrayList<Known>();
    for (var page : pages(uids)) {
      for (var message : fetched(page, "UID RFC822.SIZE BODY.PEEK[HEADER.FIELDS (MESSAGE-ID)]")) {
        all.add(
            new Known(
                message.getItem(UID.class).uid,
                MessageId.of(header(message))
                    .orElse("size " + message.getItem(RFC822SIZE.class).size)));
      }
    }
    return all;
  }

  private static List<List<Long>> pages(List<Long> uids) {
    var pages = new ArrayList<List<Long>>();
    for (int from = 0; from < uids.size(); from += PAGE) {
      pages.add(uids.subList(from, Math.min(uids.size(), from + PAGE)));
    }
    return pages;
  }

  private List<FetchResponse> fetched(List<Long> uids, String what) throws ProtocolException {
    var wanted = uids.stream().map(String::valueOf).collect(Collectors.joining(","));
    // A server may tell of other messages in between: those have no such items.
    return Stream.of(command("UID FETCH %s (%s)".formatted(wanted, what)))
        .filter(FetchResponse.class::isInstance)
        .map(FetchResponse.class::cast)
        .filter(message -> message.getItem(UID.class) != null)
        .filter(message -> message.getItem(RFC822SIZE.class) != null)
        .toList();
  }

  /**
   * A message of the selected folder as it is, piece by piece; empty if it is not there any more.
   */
  Optional<Read> read(long uid) throws ProtocolException, IOException {
    var content = new Content();
    Flags flags = null;
    Date received = null;
    Optional<String> id = Optional.empty();
    var isWhole = false;
    try {
      while (!isWhole) {
        var piece = piece(uid, content.size(), flags == null ? "FLAGS INTERNALDATE " : "");
        if (piece.isEmpty()) {
          return Optional.empty();
        }
        if (flags == null) {
          flags = new Flags(piece.get().getItem(FLAGS.class));
          received = piece.get().getItem(INTERNALDATE.class).getDate();
          id = MessageId.of(header(piece.get()));
        }
        var bytes = piece.get().getItem(BODY.class).getByteArray();
        if (bytes != null) {
          content.write(bytes.getBytes(), bytes.getStart(), bytes.getCount());
        }
        isWhole = bytes == null || bytes.getCount() < CHUNK;
      }
      return Optional.of(new Read(content, flags, received, id.orElse("size " + content.size())));
    } finally {
      if (!isWhole) {
        content.close();
      }
    }
  }

  private static byte[] header(FetchResponse first) {
    var bytes = first.getItem(BODY.class).getByteArray();
    return bytes == null ? new byte[0] : MessageId.header(bytes.getNewBytes());
  }

  private Optional<FetchResponse> piece(long uid, long from, String with) throws ProtocolException {
    var responses =
        command("UID FETCH %d (%sUID BODY.PEEK[]<%d.%d>)".formatted(uid, with, from, CHUNK));
    return Stream.of(responses)
        .filter(FetchResponse.class::isInstance)
        .map(FetchResponse.class::cast)
        .filter(message -> message.getItem(BODY.class) != null)
        .findFirst();
  }

  /**
   * Adds a message to a folder, with its flags and its day.
   *
   * @return its number, where the server says it (RFC 4315)
   */
  OptionalLong append(String folder, Read message) throws ProtocolException {
    var flags = new Flags(message.flags());
    flags.remove(Flags.Flag.RECENT);
    var added = imap.appenduid(folder, flags, message.received(), new AsItIs(message.content()));
    return added == null ? OptionalLong.empty() : OptionalLong.of(added.uid);
  }

  /** Bytes that are free (RFC 9208); empty where the server does not say. */
  OptionalLong room() throws ProtocolException {
    if (!imap.hasCapability("QUOTA")) {
      return OptionalLong.empty();
    }
    return Stream.of(Optional.ofNullable(imap.getQuotaRoot("INBOX")).orElse(new Quota[0]))
        .filter(quota -> quota.resources != null)
        .flatMap(quota -> Stream.of(quota.resources))
        .filter(resource -> resource.name.equalsIgnoreCase("STORAGE"))
        .mapToLong(resource -> Math.max(0, resource.limit - resource.usage) * 1_024)
        .min();
  }

  private Response[] command(String command) throws ProtocolException {
    var responses = imap.command(command, null);
    imap.handleResult(responses[responses.length - 1]);
    return responses;
  }

  @Override
  public void close() {
    try {
      imap.logout();
    } catch (ProtocolException _) {
      // The server ended it first.
    }
  }

  private record AsItIs(Content content) implements Literal {
    @Override
    public int size() {
      return Math.toIntExact(content.size());
    }

    @Override
    public void writeTo(OutputStream out) throws IOException {
      content.writeTo(out);
    }
  }
}
