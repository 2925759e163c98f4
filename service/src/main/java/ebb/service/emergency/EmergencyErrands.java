package ebb.service.emergency;

import ebb.api.EmergencyAccountView;
import ebb.api.EmergencyStopView;
import ebb.api.ErrandView;
import ebb.core.operator.Caller;
import ebb.service.errand.Errands;
import ebb.store.people.EmergencyStops;
import java.util.List;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Emergency stops in force: before all else while something is still open. */
@Component
final class EmergencyErrands implements Errands {
  private final EmergencyStops stops;
  private final EmergencyViews views;

  EmergencyErrands(EmergencyStops stops, EmergencyViews views) {
    this.stops = stops;
    this.views = views;
  }

  @Override
  public List<ErrandView> of(StatelessSession session, Caller caller) {
    return stops.list(session, caller.reach(), MOST).stream()
        .map(stop -> errand(views.view(session, stop)))
        .toList();
  }

  private static ErrandView errand(EmergencyStopView stop) {
    var open =
        stop.accounts().stream()
            .filter(one -> !one.signIn().equals("shut") || isOpen(one))
            .map(EmergencyAccountView::application)
            .collect(Collectors.joining(", "));
    return new ErrandView(
        open.isEmpty() ? WAITING : STOPPED,
        "person",
        Long.toString(stop.person()),
        "Emergency stop of " + stop.displayName(),
        "By %s: %s. %s".formatted(stop.by(), stop.reason(), standing(stop, open)),
        open.isEmpty() ? "Lift it when it is over" : "See what is open",
        stop.since());
  }

  private static String standing(EmergencyStopView stop, String open) {
    if (!open.isEmpty()) {
      return "Not yet shut in " + open;
    }
    return stop.isShut() ? "Shut everywhere" : "Sign-in is shut; sessions are not known everywhere";
  }

  private static boolean isOpen(EmergencyAccountView account) {
    return account.waysIn().equals("being shut") || account.waysIn().equals("refused");
  }
}
