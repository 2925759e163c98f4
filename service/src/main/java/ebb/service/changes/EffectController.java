package ebb.service.changes;

import ebb.api.EffectsView;
import ebb.api.EffectsView.EffectView;
import ebb.api.EffectsView.LosingView;
import ebb.api.EffectsView.OwnedView;
import ebb.api.EffectsView.StayingView;
import ebb.core.application.EarlierItems;
import ebb.core.application.Unreachable;
import ebb.core.change.Change;
import ebb.core.change.ChangeKind;
import ebb.core.operator.Act;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.service.connections.Connections;
import ebb.service.reach.Reaches;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.store.Database;
import ebb.store.applications.Accounts;
import ebb.store.changes.Changes;
import ebb.store.changes.Changes.Effect;
import ebb.store.people.People;
import java.security.Principal;
import java.util.Comparator;
import java.util.List;
import java.util.TreeMap;
import java.util.TreeSet;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What people gain and lose by a set, before it happens. */
@RestController
@RequestMapping("/api/v1/change-sets/{id}/effects")
class EffectController {
  /** Each is asked about in its application, while somebody waits. */
  private static final int LOSING = 10;

  private static final int GROUPS = 10;

  private static final int ITEMS = 200;

  private static final int NAMED = 3;

  private final Database database;
  private final Changes changes;
  private final Accounts accounts;
  private final People people;
  private final Connections connections;
  private final Reaches reaches;

  EffectController(
      Database database,
      Changes changes,
      Accounts accounts,
      People people,
      Connections connections,
      Reaches reaches) {
    this.database = database;
    this.changes = changes;
    this.accounts = accounts;
    this.people = people;
    this.connections = connections;
    this.reaches = reaches;
  }

  @Allowed(Act.SEE)
  @GetMapping
  EffectsView effects(@PathVariable long id, Principal principal) {
    reaches.requireSomeOfSet(principal, id);
    var reach = Callers.of(principal).reach();
    var effects = database.read(session -> changes.effects(session, id, reach));
    return new EffectsView(gained(effects), losing(id, reach), staying(effects));
  }

  private record Thing(String application, String what, String name) {}

  private static List<EffectView> gained(List<Effect> effects) {
    var things =
        new TreeSet<>(
            Comparator.comparing(Thing::application)
                .thenComparing(Thing::what)
                .thenComparing(Thing::name, Comparator.nullsFirst(Comparator.naturalOrder())));
    var gain = new TreeMap<Thing, Long>(things.comparator());
    var loss = new TreeMap<Thing, Long>(things.comparator());
    for (var effect : effects) {
      var thing = new Thing(effect.application(), what(effect.kind()), effect.group());
      things.add(thing);
      (isGain(effect.kind()) ? gain : loss).merge(thing, effect.people(), Long::sum);
    }
    return things.stream()
        .map(
            thing ->
                new EffectView(
                    thing.application(),
                    thing.what(),
                    thing.name(),
                    gain.getOrDefault(thing, 0L),
                    loss.getOrDefault(thing, 0L)))
        .toList();
  }

  private static boolean isGain(ChangeKind kind) {
    return switch (kind) {
      case CREATE, OPEN, RETURN, JOIN, TAKE_SEAT -> true;
      case SUSPEND, CLOSE, DELETE, STRIP, LEAVE, FREE_SEAT, UPDATE, RESET, SHUT, CATCH_UP -> false;
    };
  }

  private static String what(ChangeKind kind) {
    return switch (kind) {
      case JOIN, LEAVE -> "group";
      case TAKE_SEAT, FREE_SEAT -> "seat";
      default -> "account";
    };
  }

  /** What was made earlier for groups that somebody joins or leaves by it. */
  private List<StayingView> staying(List<Effect> effects) {
    return effects.stream()
        .filter(effect -> effect.kind() == ChangeKind.JOIN || effect.kind() == ChangeKind.LEAVE)
        .map(effect -> new Thing(effect.application(), what(effect.kind()), effect.group()))
        .distinct()
        .flatMap(
            group ->
                connections.to(group.application()).earlierItems().stream()
                    .map(items -> staying(items, group)))
        .limit(GROUPS)
        .filter(staying -> staying.items() == null || staying.items() > 0)
        .toList();
  }

  private static StayingView staying(EarlierItems items, Thing group) {
    try {
      var found = items.of(group.name(), ITEMS + 1);
      return new StayingView(
          group.application(),
          group.name(),
          Math.min(found.size(), ITEMS),
          found.size() > ITEMS,
          found.stream().limit(NAMED).map(item -> item.kind() + " " + item.name()).toList());
    } catch (Unreachable _) {
      // Not known, and said so.
      return new StayingView(group.application(), group.name(), null, false, List.of());
    }
  }

  private List<LosingView> losing(long id, Reach reach) {
    return database
        .read(session -> changes.ofKind(session, id, ChangeKind.CLOSE, reach, LOSING))
        .stream()
        .map(this::losing)
        .toList();
  }

  private LosingView losing(Change change) {
    var name = database.read(session -> people.displayNames(session, List.of(change.person())));
    return new LosingView(
        change.person().value(),
        name.getOrDefault(change.person(), "person " + change.person()),
        change.application(),
        owned(change.person(), change.application()));
  }

  private List<OwnedView> owned(PersonId person, String application) {
    var account = database.read(session -> accounts.existing(session, person, application));
    var ownership = connections.to(application).ownership();
    if (account.isEmpty() || ownership.isEmpty()) {
      return null;
    }
    var byKind = new TreeMap<String, OwnedView>();
    try {
      ownership
          .get()
          .items(
              account.get().observed().id(),
              item ->
                  byKind.merge(
                      item.kind(),
                      new OwnedView(item.kind(), 1, item.bytes()),
                      (one, other) ->
                          new OwnedView(
                              one.kind(),
                              one.items() + other.items(),
                              one.bytes() + other.bytes())));
    } catch (Unreachable _) {
      // Not known: shown as such, and the closing asks again before anything is removed.
      return null;
    }
    return List.copyOf(byKind.values());
  }
}
