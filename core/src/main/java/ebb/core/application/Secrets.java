package ebb.core.application;

import java.util.Map;
import java.util.TreeMap;

/** Secrets by name. Show themselves to nobody by accident. */
public record Secrets(Map<String, Secret> byName) {
  /** The password, token or client's secret with which Ebb shows who it is. */
  public static final String TOKEN = "token";

  /** The private key of the certificate Ebb shows. */
  public static final String KEY = "key";

  /** The token for the companion interface, where it is another than the application's. */
  public static final String COMPANION = "companion";

  public static final Secrets NONE = new Secrets(Map.of());

  public Secrets {
    byName = new TreeMap<>(byName);
  }

  public static Secrets token(String token) {
    return new Secrets(Map.of(TOKEN, new Secret(token)));
  }

  /** Empty where there is none of this name. */
  public Secret get(String name) {
    return byName.getOrDefault(name, new Secret(""));
  }

  public boolean has(String name) {
    return byName.containsKey(name);
  }
}
