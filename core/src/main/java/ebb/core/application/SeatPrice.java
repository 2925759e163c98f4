package ebb.core.application;

import java.math.BigDecimal;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.regex.Pattern;

/**
 * What a seat costs a month.
 *
 * @param currency as ISO 4217 has it
 */
public record SeatPrice(BigDecimal amount, String currency) {
  /** Before the name of a seat, in settings that say what it costs. */
  public static final String SETTING = "price.";

  private static final Pattern TEXT = Pattern.compile("(\\d{1,9}(?:\\.\\d{1,2})?) ([A-Z]{3})");

  /** As in 12.50 EUR; empty if it is no price. */
  public static Optional<SeatPrice> read(String text) {
    var found = TEXT.matcher(text.strip());
    return found.matches()
        ? Optional.of(new SeatPrice(new BigDecimal(found.group(1)), found.group(2)))
        : Optional.empty();
  }

  /** Those that an application's settings say, by the seats as rules call them. */
  public static Map<String, SeatPrice> of(Map<String, String> settings) {
    var prices = new TreeMap<String, SeatPrice>();
    settings.forEach(
        (name, value) -> {
          if (name.startsWith(SETTING)) {
            read(value).ifPresent(price -> prices.put(name.substring(SETTING.length()), price));
          }
        });
    return prices;
  }
}
