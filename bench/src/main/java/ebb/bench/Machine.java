package ebb.bench;

import com.dynatrace.hash4j.hashing.Hashing;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Locale;

/**
 * How fast this machine is at the moment, with nothing of Ebb: what all figures are to be read by.
 */
final class Machine {
  private static final int BLOCK = 4_096;
  private static final int BLOCKS = 100_000;
  private static final int WRITES = 200;

  static String speed(Path folder) throws IOException {
    hashed();
    return String.format(
        Locale.ROOT,
        "This machine: %d processors; %.2f s to hash 400 MB, %.2f ms for each of %d writes that wait for the disk",
        Runtime.getRuntime().availableProcessors(),
        hashed(),
        written(folder) * 1_000 / WRITES,
        WRITES);
  }

  private static double hashed() {
    var block = new byte[BLOCK];
    long sum = 0;
    var begin = System.nanoTime();
    for (int i = 0; i < BLOCKS; i++) {
      block[i % BLOCK] = (byte) i;
      sum += Hashing.murmur3_128().hashBytesToLong(block);
    }
    if (sum == 0) {
      throw new IllegalStateException("Nothing was hashed");
    }
    return (System.nanoTime() - begin) / 1e9;
  }

  private static double written(Path folder) throws IOException {
    var file = folder.resolve("written");
    try (var channel =
        FileChannel.open(file, StandardOpenOption.CREATE, StandardOpenOption.WRITE)) {
      var begin = System.nanoTime();
      for (int i = 0; i < WRITES; i++) {
        channel.write(ByteBuffer.allocate(BLOCK));
        channel.force(false);
      }
      return (System.nanoTime() - begin) / 1e9;
    } finally {
      Files.delete(file);
    }
  }

  private Machine() {}
}
