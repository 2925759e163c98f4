package ebb.core.imports;

/** What a file may do. */
public enum Mode {
  ADD_AND_UPDATE,
  /** People who are known stay as they are. */
  ADD_ONLY,
  /** Nobody is created: a row of somebody unknown is set aside. */
  UPDATE_ONLY;

  public String word() {
    return name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
  }

  public boolean adds() {
    return this != UPDATE_ONLY;
  }

  public boolean updates() {
    return this != ADD_ONLY;
  }
}
