package ebb.store;

import java.util.SortedMap;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.json.JsonMapper;

/** JSON columns: payloads that are read and written whole, and never searched. */
public final class Json {
  private static final JsonMapper MAPPER =
      JsonMapper.builder().disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES).build();

  /** Null stays null. */
  public static String write(Object value) {
    return value == null ? null : MAPPER.writeValueAsString(value);
  }

  /** Null stays null. */
  public static <T> T read(String json, Class<T> type) {
    return json == null ? null : MAPPER.readValue(json, type);
  }

  /** Null stays null. */
  public static <T> T read(String json, TypeReference<T> type) {
    return json == null ? null : MAPPER.readValue(json, type);
  }

  public static SortedMap<String, String> texts(String json) {
    return read(json, new TypeReference<SortedMap<String, String>>() {});
  }

  private Json() {}
}
