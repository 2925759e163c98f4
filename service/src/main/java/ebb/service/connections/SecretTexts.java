package ebb.service.connections;

import ebb.core.application.Secret;
import ebb.core.application.Secrets;
import ebb.store.Json;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;

/** The secrets of an application as one text, which is kept sealed. */
public final class SecretTexts {
  public static Secrets read(String text) {
    return of(Json.texts(text));
  }

  /** Secrets as they were sent. */
  public static Secrets of(Map<String, String> texts) {
    return new Secrets(
        texts.entrySet().stream()
            .collect(Collectors.toMap(Map.Entry::getKey, entry -> new Secret(entry.getValue()))));
  }

  /**
   * The text with some secrets in the place of others.
   *
   * @param before null if there were none
   * @param texts one that is empty takes the secret away
   */
  public static String with(String before, Map<String, String> texts) {
    var all = new TreeMap<>(before == null ? Map.<String, String>of() : Json.texts(before));
    all.putAll(texts);
    all.values().removeIf(String::isEmpty);
    return Json.write(all);
  }

  /** Which secrets a text holds; none if it is null. */
  public static Set<String> names(String text) {
    return text == null ? Set.of() : Json.texts(text).keySet();
  }

  private SecretTexts() {}
}
