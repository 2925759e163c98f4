package ebb.core.imports;

import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;

/**
 * How a file is to be taken.
 *
 * @param complete whether people it does not name are missing
 * @param everyone attribute to a value for each row that says nothing of it: an opening date, an
 *     end date, a kind of people
 */
public record Terms(boolean complete, Mode mode, SortedMap<String, String> everyone) {
  public Terms {
    mode = mode == null ? Mode.ADD_AND_UPDATE : mode;
    everyone = new TreeMap<>(everyone == null ? Map.of() : everyone);
  }

  /**
   * By what rows read so are told from those read in another way.
   *
   * @param units key to name of the source's units; empty where rows have names themselves
   */
  public long seed(long mappingVersion, Map<String, String> units) {
    return (mappingVersion * 31 + everyone.hashCode()) * 31 + units.hashCode();
  }

  public static Terms usual(boolean complete) {
    return new Terms(complete, Mode.ADD_AND_UPDATE, null);
  }
}
