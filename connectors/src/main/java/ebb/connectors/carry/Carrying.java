package ebb.connectors.carry;

import ebb.core.application.Around;
import ebb.core.application.Capabilities;
import ebb.core.application.Carrier;
import ebb.core.application.Connector;
import ebb.core.application.Inspection;
import ebb.core.application.Inspection.Tried;
import ebb.core.application.Part;
import ebb.core.application.Replies;
import ebb.core.application.Unreachable;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;

/** An application beside which servers stand that hold what its accounts own. */
public final class Carrying extends Around {
  private final List<Carrier> carriers;
  private final Optional<Replies> replies;
  private final List<Supplier<Tried>> looks;
  private final List<Runnable> endings;

  /**
   * @param looks one at each server, which write nothing
   * @param endings what is to be closed with it
   */
  public Carrying(
      Connector accounts,
      List<Carrier> carriers,
      Optional<Replies> replies,
      List<Supplier<Tried>> looks,
      List<Runnable> endings) {
    super(accounts);
    this.carriers = List.copyOf(carriers);
    this.replies = replies;
    this.looks = List.copyOf(looks);
    this.endings = List.copyOf(endings);
  }

  @Override
  public Capabilities capabilities() throws Unreachable {
    return carrying(accounts.capabilities());
  }

  private Capabilities carrying(Capabilities own) {
    var parts = EnumSet.noneOf(Part.class);
    parts.addAll(own.parts());
    if (!carriers.isEmpty()) {
      parts.add(Part.OWNERSHIP);
    }
    if (replies.isPresent()) {
      parts.add(Part.REPLIES);
    }
    return own.with(parts);
  }

  @Override
  public Inspection inspect() throws Unreachable {
    var own = accounts.inspect();
    var tried = new ArrayList<>(own.tried());
    looks.forEach(look -> tried.add(look.get()));
    return new Inspection(carrying(own.capabilities()), tried, own.ahead());
  }

  @Override
  public List<Carrier> carriers() {
    return carriers;
  }

  @Override
  public Optional<Replies> replies() {
    return replies.isPresent() ? replies : accounts.replies();
  }

  @Override
  public void close() {
    super.close();
    endings.forEach(Runnable::run);
  }
}
