package ebb.core.name;

import com.ibm.icu.text.Transliterator;
import java.util.Locale;

/** Names brought to a form in which they can be compared, or used where only ASCII is taken. */
public final class Folding {
  /** Cyrillic as passports spell it (BGN): the general rules drop the y of ya and yu. */
  private static final Transliterator ASCII =
      Transliterator.getInstance(
          "Russian-Latin/BGN; Any-Latin; NFD; [:Nonspacing Mark:] Remove; NFC; Latin-ASCII");

  /** Letters and digits of any script as lower-case ASCII letters, digits and hyphens. */
  public static String toAscii(String name) {
    return ASCII
        .transliterate(name)
        .toLowerCase(Locale.ROOT)
        .replaceAll("[\\s_]+", "-")
        .replaceAll("[^a-z0-9-]", "")
        .replaceAll("-{2,}", "-")
        .replaceAll("^-|-$", "");
  }

  /** For comparing and searching: case, accents, scripts, spaces and punctuation make no odds. */
  public static String forComparing(String name) {
    return toAscii(name).replace("-", "");
  }

  private Folding() {}
}
