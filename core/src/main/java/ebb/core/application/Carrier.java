package ebb.core.application;

import ebb.core.application.Ownership.Item;
import ebb.core.problem.Problem;
import java.io.OutputStream;
import java.time.ZonedDateTime;
import java.util.List;
import java.util.OptionalLong;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Predicate;

/**
 * Things that accounts own on a server whose protocol hands nothing over. Each is copied to the
 * recipient and read back there; the original stays until its account is removed.
 */
public interface Carrier {
  /**
   * Between which accounts, and where it arrives.
   *
   * @param place the name of what all of it is put under at the recipient's; the same at each try
   * @param day from whose beginning on what happens is the recipient's; the same at each try
   */
  record Route(String from, String to, String place, ZonedDateTime day) {}

  /** What became of one item. */
  sealed interface Carried {
    /** The id it had when stock was taken. */
    String item();
  }

  /**
   * It is at the recipient's, and was read back there as it was.
   *
   * @param there its id at the recipient's
   * @param sha256 of the content on both sides, in hex
   * @param where for whoever looks for it there
   */
  record Arrived(String item, String there, String sha256, String where) implements Carried {}

  record NotCarried(String item, Problem problem) implements Carried {}

  /** The kinds of all that is listed here: mail, files, calendar. No other carrier has them. */
  Set<String> kinds();

  /**
   * Streams what an account owns. An item keeps its id for as long as it is left alone. Contents
   * are not read: where the server keeps no checksums, there are none.
   */
  void items(String accountId, Consumer<Item> each) throws Unreachable;

  /**
   * Writes the content of an item, as its server gives it.
   *
   * @return false if it is not there any more, or another by now
   */
  boolean open(String accountId, String item, OutputStream to) throws Unreachable;

  /** How many bytes an account still has room for; empty where the server does not say. */
  OptionalLong room(String accountId) throws Unreachable;

  /**
   * Carries items one by one, in no particular order. One that is there already, whole, is not put
   * there again, so that this can be broken off and begun anew at any time.
   *
   * @param each told of every item as soon as it is known what became of it, by one thread at a
   *     time; says whether to go on
   * @throws Unreachable if nothing more can be carried now; what was told of stands
   */
  void carry(Route route, List<Item> items, Predicate<Carried> each) throws Unreachable;
}
