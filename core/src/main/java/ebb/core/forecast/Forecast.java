package ebb.core.forecast;

import ebb.core.application.Capabilities;
import ebb.core.application.Level;
import ebb.core.application.ObservedAccount;
import ebb.core.change.Step;
import ebb.core.compare.Compare;
import ebb.core.compare.HeldAccount;
import ebb.core.person.PersonId;
import ebb.core.rule.DesiredAccount;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;

/**
 * The steps that dates alone will bring for one person. Each later moment is compared with what the
 * one before leaves behind, as every change is: nothing is foretold by rules of its own.
 */
public final class Forecast {
  private final Function<String, Capabilities> capabilities;
  private final Map<String, HeldAccount> held = new TreeMap<>();

  private Forecast(Function<String, Capabilities> capabilities, Collection<HeldAccount> existing) {
    this.capabilities = capabilities;
    existing.forEach(account -> held.put(account.application(), account));
  }

  /**
   * @param course the first moment is now: what it asks for is taken as done
   * @param existing the accounts there are
   * @return in the order in which they will be due
   */
  public static List<Coming> of(
      List<Moment> course,
      Collection<HeldAccount> existing,
      Function<String, Capabilities> capabilities) {
    var forecast = new Forecast(capabilities, existing);
    var coming = new ArrayList<Coming>();
    for (int i = 0; i < course.size(); i++) {
      var steps = forecast.steps(course.get(i));
      if (i > 0) {
        coming.addAll(steps);
      }
    }
    return coming;
  }

  private List<Coming> steps(Moment moment) {
    var steps = new ArrayList<Coming>();
    var names = new TreeSet<>(moment.desired().accounts().keySet());
    names.addAll(held.keySet());
    names.removeAll(moment.desired().leftAlone());
    for (var application : names) {
      var desired = Optional.ofNullable(moment.desired().accounts().get(application));
      new Compare(capabilities.apply(application), Forecast::reference)
          .differences(desired, Optional.ofNullable(held.get(application)))
          .forEach(
              difference ->
                  steps.add(new Coming(moment.at(), application, Step.removing(difference))));
      held.compute(application, (_, before) -> after(application, desired, before));
    }
    return steps;
  }

  /** An account once all that it should be has been done. */
  private static HeldAccount after(
      String application, Optional<DesiredAccount> desired, HeldAccount before) {
    if (desired.isEmpty() || desired.get().level() == Level.SUSPENDED) {
      return before == null ? null : off(before, desired.isEmpty());
    }
    var account = desired.get();
    var values = new TreeMap<String, List<String>>();
    var groups = new TreeSet<>(account.groups().keySet());
    var seats = new TreeSet<>(account.seats().keySet());
    var grounds = new TreeMap<>(account.groups());
    account.seats().forEach((seat, ground) -> grounds.put(HeldAccount.seat(seat), ground));
    if (before != null) {
      values.putAll(before.observed().values());
      // What was found there is nobody's to take away.
      before.observed().groups().stream()
          .filter(group -> !before.grounds().containsKey(group))
          .forEach(groups::add);
      before.observed().seats().stream()
          .filter(seat -> !before.grounds().containsKey(HeldAccount.seat(seat)))
          .forEach(seats::add);
    }
    account
        .values()
        .forEach(
            (attribute, grounded) ->
                values.put(
                    attribute,
                    grounded.value().isReference()
                        ? List.of(accountOf(grounded.value().accountOf()))
                        : grounded.value().texts()));
    return new HeldAccount(
        before == null ? 0 : before.id(),
        application,
        level(account, before),
        new ObservedAccount(
            application, null, account.level() == Level.ACTIVE, values, groups, seats),
        grounds,
        false,
        before != null && before.leftAlone(),
        before != null && before.stripped() && account.level() == Level.SUSPENDED);
  }

  /** One that was in use is not prepared again: it is suspended until it may be used. */
  private static Level level(DesiredAccount desired, HeldAccount before) {
    return desired.level() == Level.PREPARED && before != null && before.level() != Level.PREPARED
        ? Level.SUSPENDED
        : desired.level();
  }

  private static HeldAccount off(HeldAccount account, boolean closing) {
    var observed = account.observed();
    return new HeldAccount(
        account.id(),
        account.application(),
        closing || observed.usable() ? Level.SUSPENDED : account.level(),
        new ObservedAccount(
            observed.id(),
            observed.externalId(),
            false,
            observed.values(),
            observed.groups(),
            observed.seats()),
        account.grounds(),
        closing,
        account.leftAlone(),
        account.stripped());
  }

  /** Whom an attribute refers to does not change by a date alone. */
  private static Compare.Reference reference(PersonId person) {
    return new Compare.Reference.Known(accountOf(person));
  }

  private static String accountOf(PersonId person) {
    return "account of " + person;
  }
}
