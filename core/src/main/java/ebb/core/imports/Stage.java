package ebb.core.imports;

/** How far an import has come. */
public enum Stage {
  READ,
  CHECKED,
  SHOWN,
  RELEASED,
  SEEN;

  public String word() {
    return name().toLowerCase(java.util.Locale.ROOT);
  }
}
