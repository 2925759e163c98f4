package ebb.connectors.feed;

import ebb.core.feed.Undelivered;
import ebb.core.problem.Problem;

/** What can be amiss with getting a delivery. */
final class Amiss {
  static Undelivered unreachable(String where, Exception cause) {
    return new Undelivered(
        new Problem(
            "feed-unreachable",
            "%s does not answer.".formatted(where),
            said(cause),
            "It is tried again by itself; if it stays so, look whether it runs and can be reached.",
            null),
        true,
        cause);
  }

  static Undelivered brokeOff(String where, Exception cause) {
    return new Undelivered(
        new Problem(
            "feed-broke-off",
            "%s stopped in the middle of its answer.".formatted(where),
            said(cause) + " Half a list would make leavers of the other half.",
            "It is tried again by itself; nothing of it was taken.",
            null),
        true,
        cause);
  }

  static Undelivered notAllowed(String where, int status) {
    return new Undelivered(
        new Problem(
            "feed-not-allowed",
            "%s answered %d: we may not read it.".formatted(where, status),
            "The secret is missing, wrong or over.",
            "Enter a new one with the feed.",
            null),
        false,
        null);
  }

  static Undelivered refused(String where, int status) {
    return new Undelivered(
        new Problem(
            "feed-refused",
            "%s answered %d.".formatted(where, status),
            status >= 500 ? "It met a fault of its own." : "There may be nothing at this address.",
            status >= 500
                ? "It is tried again by itself; if it stays so, tell whoever looks after it."
                : "Correct the address.",
            null),
        status >= 500 || status == 429,
        null);
  }

  static Undelivered page(String where) {
    return new Undelivered(
        new Problem(
            "feed-is-a-page",
            "%s answered with a page for people.".formatted(where),
            "It is HTML: a page to sign in, or one that says that something is wrong.",
            "Open the address in a browser to see it, and correct the address or the secret.",
            null),
        false,
        null);
  }

  static Undelivered tooLarge(String where, long largest) {
    return new Undelivered(
        new Problem(
            "feed-too-large",
            "%s sends more than %,d MB.".formatted(where, largest >> 20),
            "It may never end; no more of it was read.",
            "If it is right, raise the setting ebb.largest-upload.",
            null),
        false,
        null);
  }

  static Undelivered tooSlow(String where, long minutes) {
    return new Undelivered(
        new Problem(
            "feed-too-slow",
            "%s was still sending after %d minutes.".formatted(where, minutes),
            "It may never end.",
            "Look how large the list is, and what takes so long.",
            null),
        true,
        null);
  }

  static Undelivered redirected(String where, String why) {
    return new Undelivered(
        new Problem(
            "feed-redirected",
            "%s sends us elsewhere, and nowhere to a list.".formatted(where),
            why,
            "Correct the address.",
            null),
        false,
        null);
  }

  static Undelivered hostKeyUnknown(String where, String print) {
    return new Undelivered(
        new Problem(
            "host-key-unknown",
            "%s shows a key nobody has confirmed: %s.".formatted(where, print),
            "Whoever stands in between could show a key of their own, and read the secret.",
            "Ask who looks after it for the print of its key; if it is this one, set hostKey to it.",
            null),
        false,
        null);
  }

  static Undelivered hostKeyChanged(String where, String before, String now) {
    return new Undelivered(
        new Problem(
            "host-key-changed",
            "%s shows another key: %s.".formatted(where, now),
            "It was %s. The server was set up anew, or somebody stands in between."
                .formatted(before),
            "Ask who looks after it; if the new one is right, set hostKey to it.",
            null),
        false,
        null);
  }

  static Undelivered signInRefused(String where, String user, Exception cause) {
    return new Undelivered(
        new Problem(
            "feed-not-allowed",
            "%s does not let %s in.".formatted(where, user),
            said(cause),
            "Enter the right password or private key with the feed.",
            null),
        false,
        cause);
  }

  static Undelivered tooManyFiles(String where, int most) {
    return new Undelivered(
        new Problem(
            "feed-too-many-files",
            "%s holds more than %,d files.".formatted(where, most),
            "It cannot be told quickly which is the next one.",
            "Move old ones away, or narrow the names.",
            null),
        false,
        null);
  }

  static Undelivered stillWritten(String name) {
    return new Undelivered(
        new Problem(
            "feed-still-written",
            "%s changed while it was read.".formatted(name),
            "It was still being written.",
            "It is tried again by itself. Whoever writes it can write under another name, and"
                + " rename it when it is whole.",
            null),
        true,
        null);
  }

  static Undelivered folderAmiss(String path, String why) {
    return new Undelivered(
        new Problem(
            "feed-folder-amiss",
            "The folder %s cannot be used.".formatted(path),
            why,
            "Make it, and let the service read and write there.",
            null),
        true,
        null);
  }

  static String said(Exception cause) {
    var message = cause.getMessage();
    return message == null || message.isBlank()
        ? cause.getClass().getSimpleName() + "."
        : message.strip() + (message.endsWith(".") ? "" : ".");
  }

  private Amiss() {}
}
