package ebb.store.people;

import ebb.store.Json;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * After whom a page of people begins.
 *
 * @param isBlank whether that person has no value to be ordered by
 * @param values of the order's columns; null where there is none
 */
public record PeopleCursor(PeopleOrder.By by, boolean isBlank, List<String> values, long id) {
  private record Kept(String by, List<String> values, long id) {}

  /** Empty if the text is no cursor of a list in this order. */
  public static Optional<PeopleCursor> of(String text, PeopleOrder order) {
    try {
      var json = new String(Base64.getUrlDecoder().decode(text), StandardCharsets.UTF_8);
      var kept = Json.read(json, Kept.class);
      var cursor =
          new PeopleCursor(
              PeopleOrder.By.valueOf(kept.by()),
              kept.values().getFirst() == null,
              new ArrayList<>(kept.values()),
              kept.id());
      return Optional.of(cursor)
          .filter(one -> one.by == order.by())
          .filter(one -> one.parameters(order, one.isBlank).size() > 0);
    } catch (RuntimeException _) {
      return Optional.empty();
    }
  }

  String text() {
    return Base64.getUrlEncoder()
        .withoutPadding()
        .encodeToString(
            Json.write(new Kept(by.name(), values, id)).getBytes(StandardCharsets.UTF_8));
  }

  Map<String, Object> parameters(PeopleOrder order, boolean blank) {
    var parameters = new HashMap<String, Object>();
    var used = blank ? values.subList(1, values.size()) : values;
    var columns = order.columns(blank);
    for (int i = 0; i < columns.size(); i++) {
      var isDate = columns.get(i).endsWith("Date");
      parameters.put("after" + i, isDate ? LocalDate.parse(used.get(i)) : used.get(i));
    }
    parameters.put("afterId", id);
    return parameters;
  }
}
