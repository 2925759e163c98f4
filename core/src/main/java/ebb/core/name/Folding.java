package ebb.core.name;

import com.ibm.icu.text.Transliterator;

/** Names brought to a form in which they can be compared, or used where only ASCII is taken. */
public final class Folding {
  /** Cyrillic as passports spell it (BGN): the general rules drop the y of ya and yu. */
  private static final Transliterator ASCII =
      Transliterator.getInstance(
          "Russian-Latin/BGN; Any-Latin; NFD; [:Nonspacing Mark:] Remove; NFC; Latin-ASCII");

  /** Letters and digits of any script as lower-case ASCII letters, digits and hyphens. */
  public static String toAscii(String name) {
    var latin = isAscii(name) ? name : ASCII.transliterate(name);
    var folded = new StringBuilder(latin.length());
    for (int i = 0; i < latin.length(); i++) {
      fold(latin.charAt(i), folded);
    }
    while (!folded.isEmpty() && folded.charAt(folded.length() - 1) == '-') {
      folded.setLength(folded.length() - 1);
    }
    return folded.toString();
  }

  /** Spaces and the like become one hyphen; none stands first; other signs are left out. */
  private static void fold(char one, StringBuilder folded) {
    if (one >= 'A' && one <= 'Z') {
      folded.append((char) (one + 'a' - 'A'));
    } else if (one >= 'a' && one <= 'z' || one >= '0' && one <= '9') {
      folded.append(one);
    } else if (one == '-' || one == '_' || one == ' ' || one >= '\t' && one <= '\r') {
      if (!folded.isEmpty() && folded.charAt(folded.length() - 1) != '-') {
        folded.append('-');
      }
    }
  }

  private static boolean isAscii(String text) {
    for (int i = 0; i < text.length(); i++) {
      if (text.charAt(i) > 0x7F) {
        return false;
      }
    }
    return true;
  }

  /** For comparing and searching: case, accents, scripts, spaces and punctuation make no odds. */
  public static String forComparing(String name) {
    return toAscii(name).replace("-", "");
  }

  private Folding() {}
}
