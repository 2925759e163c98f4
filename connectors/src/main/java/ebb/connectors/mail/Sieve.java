package ebb.connectors.mail;

import ebb.core.application.Unreachable;
import java.io.BufferedInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import javax.net.ssl.SSLSocket;

/**
 * One connection by ManageSieve (RFC 5804), signed in for the owner of one mailbox. For one thread
 * at a time.
 */
final class Sieve implements AutoCloseable {
  /** More than any script somebody wrote, and than any line of an answer. */
  private static final int LARGEST = 1 << 20;

  /** The server answered with NO. */
  static final class Refused extends IOException {
    private static final long serialVersionUID = 1L;

    Refused(String said) {
      super(said);
    }
  }

  /**
   * A script by its name.
   *
   * @param isActive whether it is the one that runs; at most one does
   */
  record Script(String name, boolean isActive) {}

  private final MailServer server;
  private Socket socket;
  private InputStream in;
  private Set<String> extensions = Set.of();

  private Sieve(MailServer server) {
    this.server = server;
  }

  /**
   * @param login whose mailbox it is
   */
  static Sieve of(MailServer server, String login) throws Unreachable {
    var sieve = new Sieve(server);
    try {
      server.checkPlace();
      sieve.connect();
      sieve.signIn(login);
      return sieve;
    } catch (IOException e) {
      sieve.close();
      throw server.unreachable(e);
    } catch (Unreachable e) {
      sieve.close();
      throw e;
    }
  }

  private void connect() throws IOException, Unreachable {
    var patience = Math.toIntExact(server.patience().toMillis());
    socket = new Socket();
    socket.connect(new InetSocketAddress(server.host(), server.port()), patience);
    socket.setSoTimeout(patience);
    in = new BufferedInputStream(socket.getInputStream());
    var offered = capabilities();
    if (server.security() != MailServer.Security.NONE) {
      if (!offered.contains("STARTTLS")) {
        throw server.notSecure();
      }
      command("STARTTLS");
      secure();
      capabilities();
    }
  }

  private void secure() throws IOException {
    var secure =
        (SSLSocket)
            server
                .context()
                .getSocketFactory()
                .createSocket(socket, server.host(), server.port(), true);
    var parameters = secure.getSSLParameters();
    parameters.setEndpointIdentificationAlgorithm("HTTPS");
    secure.setSSLParameters(parameters);
    secure.startHandshake();
    socket = secure;
    in = new BufferedInputStream(secure.getInputStream());
  }

  /** What the server offers, upon which it says what its scripts may ask for, too. */
  private Set<String> capabilities() throws IOException {
    var names = new HashSet<String>();
    for (var line : answer()) {
      names.add(line.getFirst());
      if (line.getFirst().equals("SIEVE") && line.size() > 1) {
        extensions = Set.of(line.get(1).split(" "));
      }
    }
    return names;
  }

  private void signIn(String login) throws IOException, Unreachable {
    var behalf = server.user().isEmpty() ? "" : login;
    var who = server.user().isEmpty() ? login : server.user();
    var proof = behalf + '\0' + who + '\0' + server.password().reveal();
    try {
      command(
          "AUTHENTICATE \"PLAIN\" "
              + quoted(Base64.getEncoder().encodeToString(proof.getBytes(StandardCharsets.UTF_8))));
    } catch (Refused e) {
      throw server.notSignedIn(login, e.getMessage());
    }
  }

  boolean offers(String extension) {
    return extensions.contains(extension);
  }

  List<Script> scripts() throws IOException {
    return command("LISTSCRIPTS").stream()
        .map(
            line ->
                new Script(
                    line.getFirst(), line.size() > 1 && line.get(1).equalsIgnoreCase("ACTIVE")))
        .toList();
  }

  /** Empty if there is no script of this name. */
  Optional<String> get(String name) throws IOException {
    try {
      return command("GETSCRIPT " + quoted(name)).stream().findFirst().map(List::getFirst);
    } catch (Refused e) {
      return Optional.empty();
    }
  }

  void put(String name, String script) throws IOException {
    var bytes = script.getBytes(StandardCharsets.UTF_8);
    command("PUTSCRIPT %s {%d+}\r\n%s".formatted(quoted(name), bytes.length, script));
  }

  /**
   * @param name the empty text for none
   */
  void activate(String name) throws IOException {
    command("SETACTIVE " + quoted(name));
  }

  void delete(String name) throws IOException {
    command("DELETESCRIPT " + quoted(name));
  }

  private List<List<String>> command(String line) throws IOException {
    var out = socket.getOutputStream();
    out.write((line + "\r\n").getBytes(StandardCharsets.UTF_8));
    out.flush();
    return answer();
  }

  /** The lines up to OK, each in its words. */
  private List<List<String>> answer() throws IOException {
    var lines = new ArrayList<List<String>>();
    while (true) {
      var line = line();
      if (line.isEmpty()) {
        continue;
      }
      switch (line.getFirst()) {
        case Word(var text, var isQuoted) when !isQuoted && text.equals("OK") -> {
          return lines;
        }
        case Word(var text, var isQuoted)
            when !isQuoted && (text.equals("NO") || text.equals("BYE")) ->
            throw new Refused(line.size() > 1 ? line.getLast().text() : text);
        default -> lines.add(line.stream().map(Word::text).toList());
      }
    }
  }

  /**
   * @param isQuoted whether it is a string, and no atom
   */
  private record Word(String text, boolean isQuoted) {}

  private List<Word> line() throws IOException {
    var words = new ArrayList<Word>();
    while (true) {
      var next = read();
      switch (next) {
        case '\r', ' ' -> {}
        case '\n' -> {
          return words;
        }
        case '"' -> words.add(new Word(quotedText(), true));
        case '{' -> words.add(new Word(literal(), true));
        default -> words.add(atom(next));
      }
    }
  }

  private int read() throws IOException {
    var next = in.read();
    if (next == -1) {
      throw new IOException("The server ended the connection.");
    }
    return next;
  }

  private String quotedText() throws IOException {
    var bytes = new ByteArrayOutputStream();
    for (var next = read(); next != '"'; next = read()) {
      bytes.write(next == '\\' ? read() : next);
      bound(bytes.size());
    }
    return bytes.toString(StandardCharsets.UTF_8);
  }

  private String literal() throws IOException {
    var length = 0;
    for (var next = read(); next != '}'; next = read()) {
      if (next != '+') {
        length = length * 10 + Character.digit(next, 10);
        bound(length);
      }
    }
    while (read() != '\n') {
      // The line ends before the text begins.
    }
    return new String(in.readNBytes(length), StandardCharsets.UTF_8);
  }

  /** Response codes in brackets are one word. */
  private Word atom(int first) throws IOException {
    var text = new StringBuilder().append((char) first);
    var depth = first == '(' ? 1 : 0;
    in.mark(1);
    for (var next = read();
        depth > 0 || (next != ' ' && next != '\r' && next != '\n');
        next = read()) {
      depth += next == '(' ? 1 : next == ')' ? -1 : 0;
      text.append((char) next);
      bound(text.length());
      in.mark(1);
    }
    in.reset();
    return new Word(text.toString(), false);
  }

  private static void bound(int length) throws IOException {
    if (length > LARGEST || length < 0) {
      throw new IOException("The server says more than a script can be.");
    }
  }

  private static String quoted(String text) {
    return "\"" + text.replace("\\", "\\\\").replace("\"", "\\\"") + "\"";
  }

  @Override
  public void close() {
    try {
      if (socket != null) {
        socket.close();
      }
    } catch (IOException _) {
      // The server ended it first.
    }
  }
}
