package ebb.core.imports;

import java.util.HashSet;
import java.util.Set;
import java.util.function.IntConsumer;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * The keys of a source: who each stands for, the print of the row as it was last taken in, and the
 * line in which the file at hand names it. Made of plain arrays, open addressing, so that a million
 * keys take less than a hundred megabytes. Not for several threads.
 */
public final class KeyTable {
  private static final int NONE = -1;
  private static final int SMALLEST = 1 << 10;

  private long[] keys;
  private long[] prints;
  private long[] people;
  private long[] lines;
  private boolean[] taken;
  private boolean[] released;
  private int size;

  /**
   * @param expected how many keys there will be, roughly
   */
  public KeyTable(int expected) {
    allocate(Math.max(SMALLEST, Integer.highestOneBit(Math.max(1, expected)) << 2));
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
    var slot = slotFor(key);
    people[slot] = person;
    released[slot] = isReleased;
    prints[2 * slot] = print == null ? 0 : print.high();
    prints[2 * slot + 1] = print == null ? 0 : print.low();
  }

  /**
   * Notes that a line names a key.
   *
   * @return the line that named it before; 0 if none did
   */
  public long name(Print key, long line) {
    var slot = slotFor(key);
    var before = lines[slot];
    if (before == 0) {
      lines[slot] = line;
    }
    return before;
  }

  /** Whether a row is as it was when it was last taken in. */
  public boolean isSame(Print key, Print print) {
    var slot = find(key);
    return slot != NONE
        && released[slot]
        && prints[2 * slot] == print.high()
        && prints[2 * slot + 1] == print.low();
  }

  /** The number of the person a key stands for; 0 if nobody has one yet. */
  public long person(Print key) {
    var slot = find(key);
    return slot == NONE ? 0 : people[slot];
  }

  /** Whether a row of this key was ever let through. */
  public boolean isReleased(Print key) {
    var slot = find(key);
    return slot != NONE && released[slot];
  }

  /** The line that names a key; 0 if none does. */
  public long line(Print key) {
    var slot = find(key);
    return slot == NONE ? 0 : lines[slot];
  }

  /** Gives a key its person. */
  public void give(Print key, long person) {
    // First the slot: finding one may put larger arrays in place of these.
    var slot = slotFor(key);
    people[slot] = person;
  }

  /** How many keys were let through before. */
  public long countReleased() {
    long count = 0;
    for (boolean one : released) {
      count += one ? 1 : 0;
    }
    return count;
  }

  /**
   * The people whose keys were let through before, and whom no line names: whoever has another key
   * now is named by that one.
   */
  public Set<Long> vanished() {
    var vanished =
        slots()
            .filter(slot -> released[slot] && lines[slot] == 0)
            .mapToObj(slot -> people[slot])
            .collect(Collectors.toCollection(HashSet::new));
    if (!vanished.isEmpty()) {
      slots()
          .filter(slot -> released[slot] && lines[slot] != 0)
          .forEach(slot -> vanished.remove(people[slot]));
    }
    return vanished;
  }

  private IntStream slots() {
    return IntStream.range(0, taken.length).filter(slot -> taken[slot]);
  }

  private int slotFor(Print key) {
    var slot = probe(key);
    if (!taken[slot]) {
      if (size * 2 >= taken.length) {
        grow();
        slot = probe(key);
      }
      taken[slot] = true;
      keys[2 * slot] = key.high();
      keys[2 * slot + 1] = key.low();
      size++;
    }
    return slot;
  }

  private int find(Print key) {
    var slot = probe(key);
    return taken[slot] ? slot : NONE;
  }

  /** The slot of a key, or the free one where it would stand. */
  private int probe(Print key) {
    int mask = taken.length - 1;
    int slot = (int) key.low() & mask;
    while (taken[slot] && (keys[2 * slot] != key.high() || keys[2 * slot + 1] != key.low())) {
      slot = (slot + 1) & mask;
    }
    return slot;
  }

  private void grow() {
    var old = new KeyTable(this);
    allocate(taken.length * 2);
    size = 0;
    old.each(
        slot -> {
          var to = slotFor(new Print(old.keys[2 * slot], old.keys[2 * slot + 1]));
          people[to] = old.people[slot];
          lines[to] = old.lines[slot];
          released[to] = old.released[slot];
          prints[2 * to] = old.prints[2 * slot];
          prints[2 * to + 1] = old.prints[2 * slot + 1];
        });
  }

  private KeyTable(KeyTable other) {
    keys = other.keys;
    prints = other.prints;
    people = other.people;
    lines = other.lines;
    taken = other.taken;
    released = other.released;
  }

  private void each(IntConsumer take) {
    for (int slot = 0; slot < taken.length; slot++) {
      if (taken[slot]) {
        take.accept(slot);
      }
    }
  }

  private void allocate(int slots) {
    keys = new long[2 * slots];
    prints = new long[2 * slots];
    people = new long[slots];
    lines = new long[slots];
    taken = new boolean[slots];
    released = new boolean[slots];
  }
}
