package ebb.api;

import java.util.List;

/**
 * What follows from new names.
 *
 * @param keys by which sources know the person; a rename leaves them as they are
 */
public record RenameView(List<DerivedView> derived, List<KeyView> keys) {
  /**
   * A value before and after.
   *
   * @param application null for what the person is called in Ebb itself
   * @param attribute "login" for the name they sign in by
   */
  public record DerivedView(
      String application, String attribute, List<String> before, List<String> after) {}

  public record KeyView(String source, String key) {}
}
