package ebb.connectors.dav;

import java.net.URI;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** The way to a resource below the files of one account, name by name, as people write them. */
record DavPath(List<String> names) {
  static final DavPath HOME = new DavPath(List.of());

  private static final String UNRESERVED = "-._~";

  DavPath below(String name) {
    return new DavPath(Stream.concat(names.stream(), Stream.of(name)).toList());
  }

  DavPath below(DavPath path) {
    return new DavPath(Stream.concat(names.stream(), path.names.stream()).toList());
  }

  DavPath parent() {
    return new DavPath(names.subList(0, names.size() - 1));
  }

  String last() {
    return names.getLast();
  }

  /** For people. */
  String words() {
    return String.join("/", names);
  }

  /**
   * @param home ends with a slash
   */
  URI under(String home, boolean isCollection) {
    var path = names.stream().map(DavPath::encoded).collect(Collectors.joining("/"));
    return URI.create(home + path + (isCollection && !names.isEmpty() ? "/" : ""));
  }

  /** RFC 3986, 2.1: all but what needs no encoding anywhere. */
  static String encoded(String name) {
    var text = new StringBuilder();
    for (var one : name.getBytes(StandardCharsets.UTF_8)) {
      var c = (char) (one & 0xff);
      if (c < 0x80 && (Character.isLetterOrDigit(c) || UNRESERVED.indexOf(c) >= 0)) {
        text.append(c);
      } else {
        text.append("%%%02X".formatted((int) c));
      }
    }
    return text.toString();
  }

  /**
   * @param path of an address, percent-encoded
   */
  static DavPath of(String path) {
    var names = new ArrayList<String>();
    for (var name : path.split("/")) {
      if (!name.isEmpty()) {
        // A plus is a plus in a path.
        names.add(URLDecoder.decode(name.replace("+", "%2B"), StandardCharsets.UTF_8));
      }
    }
    return new DavPath(List.copyOf(names));
  }
}
