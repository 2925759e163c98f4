package ebb.service.forecast;

import ebb.api.ForecastView.DayCountView;
import ebb.api.ForecastView.DayView;
import ebb.api.ForecastView.SeatsAheadView;
import ebb.api.PriceView;
import ebb.core.application.SeatPrice;
import ebb.core.change.ChangeKind;
import ebb.core.forecast.Coming;
import ebb.core.person.PersonId;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;

/** Counts what comes, by day, application and kind. */
final class Calendar {
  private record Kind(String application, ChangeKind kind) {}

  private record Seat(String application, String seat) {}

  private static final class Day {
    private final Set<PersonId> people = new HashSet<>();
    private final Map<Kind, Long> counts =
        new TreeMap<>(Comparator.comparing(Kind::application).thenComparing(Kind::kind));
    private final Map<String, BigDecimal> costs = new TreeMap<>();
  }

  private final ZoneId zone;
  private final SortedMap<LocalDate, Day> days = new TreeMap<>();
  private final Map<Seat, Long> more = new TreeMap<>(BY_NAME);
  private final Map<Seat, Long> fewer = new TreeMap<>(BY_NAME);

  private static final Comparator<Seat> BY_NAME =
      Comparator.comparing(Seat::application).thenComparing(Seat::seat);

  private final Map<String, Map<String, SeatPrice>> prices;

  /**
   * @param prices by application and seat
   */
  Calendar(ZoneId zone, Map<String, Map<String, SeatPrice>> prices) {
    this.zone = zone;
    this.prices = prices;
  }

  void add(PersonId person, List<Coming> coming) {
    for (var one : coming) {
      var day = days.computeIfAbsent(LocalDate.ofInstant(one.at(), zone), _ -> new Day());
      day.people.add(person);
      day.counts.merge(new Kind(one.application(), one.step().kind()), 1L, Long::sum);
      var seat = new Seat(one.application(), one.step().group());
      if (one.step().kind() == ChangeKind.TAKE_SEAT) {
        more.merge(seat, 1L, Long::sum);
        cost(day, seat, BigDecimal.ONE);
      } else if (one.step().kind() == ChangeKind.FREE_SEAT) {
        fewer.merge(seat, 1L, Long::sum);
        cost(day, seat, BigDecimal.ONE.negate());
      }
    }
  }

  private void cost(Day day, Seat seat, BigDecimal count) {
    var price = prices.getOrDefault(seat.application(), Map.of()).get(seat.seat());
    if (price != null) {
      day.costs.merge(price.currency(), price.amount().multiply(count), BigDecimal::add);
    }
  }

  List<DayView> days() {
    return days.entrySet().stream()
        .map(
            day ->
                new DayView(
                    day.getKey(),
                    day.getValue().people.size(),
                    counts(day.getValue()),
                    costs(day.getValue())))
        .toList();
  }

  private static List<PriceView> costs(Day day) {
    return day.costs.entrySet().stream()
        .filter(cost -> cost.getValue().signum() != 0)
        .map(cost -> new PriceView(cost.getValue(), cost.getKey()))
        .toList();
  }

  private static List<DayCountView> counts(Day day) {
    return day.counts.entrySet().stream()
        .map(
            count ->
                new DayCountView(
                    count.getKey().application(), count.getKey().kind().word(), count.getValue()))
        .toList();
  }

  /** Those in which anything happens. */
  Set<String> applications() {
    return days.values().stream()
        .flatMap(day -> day.counts.keySet().stream())
        .map(Kind::application)
        .collect(Collectors.toSet());
  }

  List<SeatsAheadView> seats() {
    var all = new TreeSet<>(BY_NAME);
    all.addAll(more.keySet());
    all.addAll(fewer.keySet());
    return all.stream()
        .map(
            seat ->
                new SeatsAheadView(
                    seat.application(),
                    seat.seat(),
                    more.getOrDefault(seat, 0L),
                    fewer.getOrDefault(seat, 0L)))
        .toList();
  }
}
