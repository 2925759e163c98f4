package ebb.connectors.companion;

import ebb.core.application.Activity;
import ebb.core.application.Around;
import ebb.core.application.Capabilities;
import ebb.core.application.Connector;
import ebb.core.application.EarlierItems;
import ebb.core.application.Inspection;
import ebb.core.application.Instruction;
import ebb.core.application.Ownership;
import ebb.core.application.Part;
import ebb.core.application.References;
import ebb.core.application.Replies;
import ebb.core.application.Seats;
import ebb.core.application.Sessions;
import ebb.core.application.Unreachable;
import ebb.core.application.WaysIn;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;

/** A connector joined by the companion interface, for what its own protocol has no words for. */
public final class Joined extends Around {
  private final CompanionClient companion;

  public Joined(Connector accounts, CompanionClient companion) {
    super(accounts);
    this.companion = companion;
  }

  @Override
  public Capabilities capabilities() throws Unreachable {
    return joined(accounts.capabilities());
  }

  private Capabilities joined(Capabilities own) throws Unreachable {
    var parts = EnumSet.noneOf(Part.class);
    parts.addAll(own.parts());
    parts.addAll(companion.parts());
    return own.with(parts);
  }

  @Override
  public Inspection inspect() throws Unreachable {
    var own = accounts.inspect();
    var tried = new ArrayList<>(own.tried());
    var answer = companion.inspect();
    tried.add(answer);
    return new Inspection(
        answer.isWell() ? joined(own.capabilities()) : own.capabilities(), tried, own.ahead());
  }

  @Override
  public Optional<Ownership> ownership() {
    return companion.ownership().or(accounts::ownership);
  }

  @Override
  public Optional<Replies> replies() {
    return companion.replies().or(accounts::replies);
  }

  @Override
  public Optional<References> references() {
    return companion
        .references()
        .<References>map(told -> new ToldAndCarried(told, accounts.references()))
        .or(accounts::references);
  }

  /** The companion says what there is; what has to follow is by the application's own protocol. */
  private record ToldAndCarried(References told, Optional<References> own) implements References {
    @Override
    public List<Reference> to(String accountId) throws Unreachable {
      return told.to(accountId);
    }

    @Override
    public boolean followOn(Instruction instruction) {
      return own.filter(one -> one.followOn(instruction)).isPresent();
    }
  }

  @Override
  public Optional<WaysIn> waysIn() {
    return companion.waysIn().or(accounts::waysIn);
  }

  @Override
  public Optional<Sessions> sessions() {
    return companion.sessions().or(accounts::sessions);
  }

  @Override
  public Optional<Activity> activity() {
    return companion.activity().or(accounts::activity);
  }

  @Override
  public Optional<EarlierItems> earlierItems() {
    return companion.earlierItems().or(accounts::earlierItems);
  }

  @Override
  public Optional<Seats> seats() {
    return companion.seats().or(accounts::seats);
  }

  @Override
  public void close() {
    super.close();
    companion.close();
  }
}
