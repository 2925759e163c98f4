package ebb.service.forecast;

import ebb.api.ComingView;
import ebb.api.ComingView.StepView;
import ebb.api.ForecastView;
import ebb.api.ForecastView.AmissView;
import ebb.api.Listing;
import ebb.core.application.Application;
import ebb.core.application.SeatPrice;
import ebb.core.forecast.Coming;
import ebb.core.operator.Act;
import ebb.core.person.Attributes;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.forecast.Forecasts.Ahead;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Problems;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.applications.Applications;
import ebb.store.people.People.Waking;
import java.security.Principal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/forecast")
class ForecastController {
  /** A season: what begins and ends with the summer is seen before it. */
  private static final int USUAL_DAYS = 92;

  /** Contracts end within a year or two; what is later is known of hardly anybody. */
  private static final int MOST_DAYS = 800;

  private final Database database;
  private final Applications applications;
  private final BusinessClock clock;
  private final Forecasts forecasts;

  ForecastController(
      Database database, Applications applications, BusinessClock clock, Forecasts forecasts) {
    this.database = database;
    this.applications = applications;
    this.clock = clock;
    this.forecasts = forecasts;
  }

  /**
   * What dates alone will bring.
   *
   * @param days how far to look, today included
   * @param application left out for all
   */
  @Allowed(Act.SEE)
  @GetMapping
  ForecastView calendar(
      @RequestParam(required = false) Integer days,
      @RequestParam(required = false) String application,
      Principal principal) {
    var today = clock.today();
    var until = today.plusDays(span(days) - 1);
    var all = database.read(applications::list);
    var calendar = new Calendar(clock.zone(), prices(all));
    forecasts.each(
        endOf(until),
        Callers.of(principal).reach(),
        null,
        ahead -> {
          calendar.add(
              ahead.person().id(),
              ahead.coming().stream()
                  .filter(one -> application == null || one.application().equals(application))
                  .toList());
          return true;
        });
    return new ForecastView(
        today,
        until,
        clock.zone().getId(),
        calendar.days(),
        calendar.seats(),
        amiss(all, calendar.applications()));
  }

  private static Map<String, Map<String, SeatPrice>> prices(List<Application> all) {
    return all.stream()
        .collect(Collectors.toMap(Application::name, one -> SeatPrice.of(one.settings())));
  }

  private static List<AmissView> amiss(List<Application> all, Set<String> concerned) {
    return all.stream()
        .filter(one -> one.problem() != null && concerned.contains(one.name()))
        .map(one -> new AmissView(one.name(), Problems.view(one.problem()), one.checkedAt()))
        .toList();
  }

  /**
   * Whom a day concerns, and how.
   *
   * @param application left out for all
   */
  @Allowed(Act.SEE)
  @GetMapping("/{day}")
  Listing<ComingView> day(
      @PathVariable LocalDate day,
      @RequestParam(required = false) String application,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit,
      Principal principal) {
    if (day.isAfter(clock.today().plusDays(MOST_DAYS))) {
      throw tooFar();
    }
    var page = new DayPage(day, application, Requests.limit(limit));
    forecasts.each(endOf(day), Callers.of(principal).reach(), after(cursor), page::take);
    return Listing.page(page.found, page.next);
  }

  private final class DayPage {
    private final Instant from;
    private final Instant until;
    private final String application;
    private final int limit;
    private final List<ComingView> found = new ArrayList<>();
    private Waking last;
    private String next;

    DayPage(LocalDate day, String application, int limit) {
      this.from = day.atStartOfDay(clock.zone()).toInstant();
      this.until = endOf(day);
      this.application = application;
      this.limit = limit;
    }

    boolean take(Ahead ahead) {
      var steps = ahead.coming().stream().filter(this::isMeant).map(this::view).toList();
      if (!steps.isEmpty()) {
        if (found.size() == limit) {
          next = new Requests.Place(last.at(), last.id()).text();
          return false;
        }
        found.add(
            new ComingView(
                ahead.waking().id(),
                ahead.person().displayName(),
                ahead.person().get(Attributes.DEPARTMENT).orElse(null),
                steps));
        last = ahead.waking();
      }
      return true;
    }

    private boolean isMeant(Coming coming) {
      return !coming.at().isBefore(from)
          && !coming.at().isAfter(until)
          && (application == null || coming.application().equals(application));
    }

    private StepView view(Coming coming) {
      return new StepView(
          coming.at(), coming.application(), coming.step().kind().word(), coming.step().words());
    }
  }

  private Instant endOf(LocalDate day) {
    return day.plusDays(1).atStartOfDay(clock.zone()).toInstant().minusMillis(1);
  }

  private static int span(Integer days) {
    if (days != null && (days < 1 || days > MOST_DAYS)) {
      throw tooFar();
    }
    return days == null ? USUAL_DAYS : days;
  }

  private static Refusal tooFar() {
    return Refusal.invalid(
        new Problem(
            "forecast-too-far",
            "That is further than Ebb looks.",
            "Between one and %d days can be looked ahead.".formatted(MOST_DAYS),
            "Ask for fewer days, or for an earlier one.",
            Where.field("days")));
  }

  private static Waking after(String cursor) {
    var place = Requests.place(cursor);
    return place == null ? null : new Waking(place.id(), place.at());
  }
}
