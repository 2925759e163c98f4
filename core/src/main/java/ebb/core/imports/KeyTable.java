package ebb.core.imports;

import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * The keys of a source: who each stands for, the print of the row as it was last taken in, and the
 * line in which the file at hand names it. Entries lie one after the other in plain arrays, found
 * through a table of their places, so that a million keys take sixty megabytes. Not for several
 * threads.
 */
public final class KeyTable {
  private static final int NONE = -1;
  private static final int SMALLEST = 1 << 10;

  /** Of each entry: both halves of its key, both of the row's print, and the person. */
  private static final int WORDS = 5;

  private static final int PRINT = 2;
  private static final int PERSON = 4;

  private final BitSet released = new BitSet();
  private final BitSet rekeyed = new BitSet();

  /** Of keys that rows name that say different things: a second line. Mostly there are none. */
  private final Map<Integer, Long> again = new HashMap<>();

  private long[] words;
  private int[] lines;

  /** The place of an entry, from 1; 0 where there is none. Open addressing. */
  private int[] places;

  private int size;

  /**
   * @param expected how many keys there will be, roughly
   */
  public KeyTable(int expected) {
    // Some more than last time, so that an ordinary day never has to make room.
    int room = Math.max(SMALLEST, expected + expected / 16);
    words = new long[WORDS * room];
    lines = new int[room];
    places = new int[tableFor(room)];
  }

  /** How many keys there are. */
  public int size() {
    return size;
  }

  /**
   * Adds what is known of a key.
   *
   * @param print of its row as it was last taken in; null if that must be compared
   * @param isReleased whether a row of it was ever let through
   */
  public void know(Print key, long person, Print print, boolean isReleased) {
    var entry = entryFor(key);
    int at = WORDS * entry;
    words[at + PRINT] = print == null ? 0 : print.high();
    words[at + PRINT + 1] = print == null ? 0 : print.low();
    words[at + PERSON] = person;
    released.set(entry, isReleased);
  }

  /**
   * Notes that a line names a key.
   *
   * @return the line that named it before; 0 if none did
   */
  public long name(Print key, long line) {
    var entry = entryFor(key);
    var before = lines[entry];
    if (before == 0) {
      lines[entry] = Math.toIntExact(line);
    }
    return before;
  }

  /** Notes that another row names a key, and says something else. */
  public void nameAgain(Print key, long line) {
    again.putIfAbsent(entryFor(key), line);
  }

  /** A line that names a key and says something else than the first that does; 0 if none does. */
  public long lineAgain(Print key) {
    return again.isEmpty() ? 0 : again.getOrDefault(find(key), 0L);
  }

  /** Whether a row is as it was when it was last taken in. */
  public boolean isSame(Print key, Print print) {
    var entry = find(key);
    int at = WORDS * entry + PRINT;
    return entry != NONE
        && released.get(entry)
        && words[at] == print.high()
        && words[at + 1] == print.low();
  }

  /** The number of the person a key stands for; 0 if nobody has one yet. */
  public long person(Print key) {
    var entry = find(key);
    return entry == NONE ? 0 : person(entry);
  }

  /** Whether a row of this key was ever let through. */
  public boolean isReleased(Print key) {
    var entry = find(key);
    return entry != NONE && released.get(entry);
  }

  /** The line that names a key; 0 if none does. */
  public long line(Print key) {
    var entry = find(key);
    return entry == NONE ? 0 : lines[entry];
  }

  /**
   * Makes a key never let through stand for the person of another, if the file at hand does not
   * name that one and gave its person no new key yet.
   */
  public void rekey(Print from, Print to) {
    var former = find(from);
    if (former == NONE || !released.get(former) || lines[former] != 0 || isReleased(to)) {
      return;
    }
    var person = person(former);
    var entry = entryFor(to);
    words[WORDS * entry + PERSON] = person;
    released.set(entry);
    rekeyed.set(entry);
    // Whoever else says they had this key is somebody new.
    released.clear(former);
  }

  /** Whether a key was given to somebody who has another one in what was let through. */
  public boolean isRekeyed(Print key) {
    var entry = find(key);
    return entry != NONE && rekeyed.get(entry);
  }

  /** Gives a key its person. */
  public void give(Print key, long person) {
    // First the entry: finding one may put larger arrays in place of these.
    var entry = entryFor(key);
    words[WORDS * entry + PERSON] = person;
  }

  /** How many keys were let through before. */
  public long countReleased() {
    return released.cardinality();
  }

  /**
   * The people whose keys were let through before, and whom no line names: whoever has another key
   * now is named by that one.
   */
  public Set<Long> vanished() {
    var vanished =
        released.stream()
            .filter(entry -> lines[entry] == 0)
            .mapToObj(this::person)
            .collect(Collectors.toCollection(HashSet::new));
    if (!vanished.isEmpty()) {
      released.stream()
          .filter(entry -> lines[entry] != 0)
          .forEach(entry -> vanished.remove(person(entry)));
    }
    return vanished;
  }

  private long person(int entry) {
    return words[WORDS * entry + PERSON];
  }

  private int entryFor(Print key) {
    int slot = probe(key.high(), key.low());
    if (places[slot] == 0) {
      if (size == lines.length) {
        makeRoom();
        slot = probe(key.high(), key.low());
      }
      words[WORDS * size] = key.high();
      words[WORDS * size + 1] = key.low();
      places[slot] = ++size;
    }
    return places[slot] - 1;
  }

  private int find(Print key) {
    return places[probe(key.high(), key.low())] - 1;
  }

  /** The slot of a key, or the free one where it would stand. */
  private int probe(long high, long low) {
    int mask = places.length - 1;
    int slot = (int) low & mask;
    while (places[slot] != 0 && !isAt(places[slot] - 1, high, low)) {
      slot = (slot + 1) & mask;
    }
    return slot;
  }

  private boolean isAt(int entry, long high, long low) {
    return words[WORDS * entry] == high && words[WORDS * entry + 1] == low;
  }

  private void makeRoom() {
    int room = size + size / 2;
    words = Arrays.copyOf(words, WORDS * room);
    lines = Arrays.copyOf(lines, room);
    if (places.length < tableFor(room)) {
      places = new int[tableFor(room)];
      IntStream.range(0, size)
          .forEach(
              entry -> places[probe(words[WORDS * entry], words[WORDS * entry + 1])] = entry + 1);
    }
  }

  /** A power of two, of which at most three quarters are taken. */
  private static int tableFor(int room) {
    return Integer.highestOneBit(room + room / 3) << 1;
  }
}
