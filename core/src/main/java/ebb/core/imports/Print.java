package ebb.core.imports;

import com.dynatrace.hash4j.hashing.HashStream128;
import com.dynatrace.hash4j.hashing.HashValue128;
import com.dynatrace.hash4j.hashing.Hashing;
import java.util.HexFormat;

/**
 * 128 bits that stand for a text or a row (MurmurHash3): two of a million are alike by chance once
 * in 10^26. They tell whether something is the same as last time; they prove nothing to anybody.
 */
public record Print(long high, long low) {
  private static final int HEX_DIGITS = 16;

  /** Of one text. */
  public static Print of(String text) {
    return of(Hashing.murmur3_128().hashCharsTo128Bits(text));
  }

  /** Of bytes that come one after the other. Not for several threads. */
  public static final class OfBytes {
    private final HashStream128 stream = Hashing.murmur3_128().hashStream();

    public void put(byte[] bytes, int from, int length) {
      stream.putBytes(bytes, from, length);
    }

    public Print end() {
      return of(stream.get());
    }
  }

  /** As 32 hexadecimal digits. */
  public String text() {
    var hex = HexFormat.of();
    return hex.toHexDigits(high) + hex.toHexDigits(low);
  }

  /**
   * @param text as {@link #text} gave it
   */
  public static Print parse(String text) {
    return new Print(
        HexFormat.fromHexDigitsToLong(text, 0, HEX_DIGITS),
        HexFormat.fromHexDigitsToLong(text, HEX_DIGITS, 2 * HEX_DIGITS));
  }

  private static Print of(HashValue128 value) {
    return new Print(value.getMostSignificantBits(), value.getLeastSignificantBits());
  }

  /** Prints of rows, one after the other. Not for several threads. */
  public static final class Press {
    private final HashStream128 stream = Hashing.murmur3_128().hashStream();

    /** Begins a row; rows read under another seed have other prints. */
    public Press begin(long seed) {
      stream.reset();
      stream.putLong(seed);
      return this;
    }

    public Press put(String cell) {
      stream.putString(cell);
      return this;
    }

    /** How many cells follow that belong together. */
    public Press put(int cells) {
      stream.putInt(cells);
      return this;
    }

    public Print end() {
      return of(stream.get());
    }
  }
}
