package ebb.connectors.seats;

import ebb.core.application.Around;
import ebb.core.application.Capabilities;
import ebb.core.application.Connector;
import ebb.core.application.Inspection;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Part;
import ebb.core.application.Reading;
import ebb.core.application.Sightings;
import ebb.core.application.Unreachable;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;

/** An application whose accounts take seats, by whatever stands for one there. */
public final class Seated extends Around {
  /** What stands for a seat: companion, group, or the name of an attribute. */
  public static final String SETTING = "seats";

  /** Before the name of a seat, in settings that say what it is called there. */
  public static final String NAME = "seat.";

  private final SeatWay way;

  /** Our name of a seat to the application's, where they differ. */
  private final Map<String, String> there;

  private final Map<String, String> here = new HashMap<>();

  private Seated(Connector accounts, SeatWay way, Map<String, String> there) {
    super(accounts);
    this.way = way;
    this.there = there;
    there.forEach((ours, theirs) -> here.put(theirs, ours));
  }

  /** The application's name of a seat to ours, where settings say that they differ. */
  public static Map<String, String> names(Map<String, String> settings) {
    var names = new TreeMap<String, String>();
    settings.forEach(
        (name, value) -> {
          if (name.startsWith(NAME)) {
            names.put(value, name.substring(NAME.length()));
          }
        });
    return names;
  }

  /**
   * @param settings as docs/applications.md has them
   */
  public static Seated over(Connector accounts, Map<String, String> settings) {
    var there = new TreeMap<String, String>();
    names(settings).forEach((theirs, ours) -> there.put(ours, theirs));
    var theirs = new TreeSet<>(there.values());
    var way =
        switch (settings.getOrDefault(SETTING, "companion")) {
          case "companion" -> new ByCompanion(accounts);
          case "group" -> new ByGroup(accounts, theirs);
          case String attribute -> new ByAttribute(accounts, attribute, theirs);
        };
    return new Seated(accounts, way, there);
  }

  @Override
  public Capabilities capabilities() throws Unreachable {
    return seated(accounts.capabilities());
  }

  private Capabilities seated(Capabilities own) {
    var parts = EnumSet.noneOf(Part.class);
    parts.addAll(own.parts());
    if (way.isThere(parts)) {
      parts.add(Part.SEATS);
    } else {
      parts.remove(Part.SEATS);
    }
    return own.with(parts);
  }

  @Override
  public Inspection inspect() throws Unreachable {
    var own = accounts.inspect();
    return new Inspection(seated(own.capabilities()), own.tried(), own.ahead());
  }

  @Override
  public Reading read(String since, Sightings to) throws Unreachable {
    var reading = way.reading();
    // Who joined or left a group is told without the account: seats would be overlooked.
    return accounts.read(
        way instanceof ByGroup ? null : since, new SeatedSightings(to, this::ours, reading));
  }

  @Override
  public Optional<ObservedAccount> find(String accountId) throws Unreachable {
    return seated(accounts.find(accountId));
  }

  @Override
  public Optional<ObservedAccount> findByExternalId(String externalId) throws Unreachable {
    return seated(accounts.findByExternalId(externalId));
  }

  private Optional<ObservedAccount> seated(Optional<ObservedAccount> account) throws Unreachable {
    return account.isEmpty() ? account : Optional.of(account.get().in(ours(way.of(account.get()))));
  }

  private SortedSet<String> ours(SortedSet<String> theirs) {
    var ours = new TreeSet<String>();
    theirs.forEach(seat -> ours.add(here.getOrDefault(seat, seat)));
    return ours;
  }

  @Override
  public Outcome apply(Instruction instruction) {
    return switch (instruction) {
      case Instruction.TakeSeat(var account, var seat) ->
          seen(way.take(account, there.getOrDefault(seat, seat)), account);
      case Instruction.FreeSeat(var account, var seat) ->
          seen(way.free(account, there.getOrDefault(seat, seat)), account);
      default -> seen(accounts.apply(instruction), null);
    };
  }

  /**
   * An outcome, with the seats of the account it shows.
   *
   * @param id of the account to be read where the outcome shows none; null for none
   */
  private Outcome seen(Outcome outcome, String id) {
    try {
      return switch (outcome) {
        case Outcome.Applied(var account) when account.isEmpty() && id != null ->
            new Outcome.Applied(find(id));
        case Outcome.Applied(var account) -> new Outcome.Applied(seated(account));
        case Outcome.AlreadyInPlace(var account) -> new Outcome.AlreadyInPlace(seated(account));
        default -> outcome;
      };
    } catch (Unreachable e) {
      return new Outcome.Unknown(e.problem());
    }
  }
}
