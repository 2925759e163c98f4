package ebb.core.imports;

/**
 * Which row first named a key, capitals or not: 64 bits of each key and its row, in plain arrays.
 * Two of a million are taken for one by chance once in ten million files. Not for several threads.
 */
final class FoldedKeys {
  private static final int SMALLEST = 1 << 10;

  private long[] hashes = new long[SMALLEST];
  private int[] rows = new int[SMALLEST];
  private int size;

  /**
   * @return the row that named it first; this one if none did
   */
  int first(long hash, int row) {
    if (size >= hashes.length / 2) {
      makeRoom();
    }
    // None is 0: that marks a free place.
    long known = hash == 0 ? 1 : hash;
    int slot = slot(known);
    if (hashes[slot] == 0) {
      hashes[slot] = known;
      rows[slot] = row;
      size++;
    }
    return rows[slot];
  }

  private int slot(long hash) {
    int mask = hashes.length - 1;
    int slot = (int) hash & mask;
    while (hashes[slot] != 0 && hashes[slot] != hash) {
      slot = (slot + 1) & mask;
    }
    return slot;
  }

  private void makeRoom() {
    var oldHashes = hashes;
    var oldRows = rows;
    hashes = new long[2 * oldHashes.length];
    rows = new int[hashes.length];
    for (int i = 0; i < oldHashes.length; i++) {
      if (oldHashes[i] != 0) {
        int slot = slot(oldHashes[i]);
        hashes[slot] = oldHashes[i];
        rows[slot] = oldRows[i];
      }
    }
  }
}
