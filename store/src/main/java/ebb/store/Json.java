package ebb.store;

import java.io.Writer;
import java.util.SortedMap;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.JsonParser;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.ObjectReader;
import tools.jackson.databind.json.JsonMapper;

/** JSON columns: payloads that are read and written whole, and never searched. */
public final class Json {
  private static final JsonMapper MAPPER =
      JsonMapper.builder()
          .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
          // What was kept before a yes or no was known says no.
          .disable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
          .build();
  private static final ObjectReader TEXTS =
      MAPPER.readerFor(new TypeReference<SortedMap<String, String>>() {});

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

  /** What reads one type often: the type is looked up once. */
  public static ObjectReader reader(TypeReference<?> type) {
    return MAPPER.readerFor(type);
  }

  /** For what is read so often that binding it to a type would cost most. */
  public static JsonParser parser(String json) {
    return MAPPER.createParser(json);
  }

  /** The way back of {@link #parser}. */
  public static JsonGenerator generator(Writer to) {
    return MAPPER.createGenerator(to);
  }

  public static SortedMap<String, String> texts(String json) {
    return json == null ? null : TEXTS.readValue(json);
  }

  private Json() {}
}
