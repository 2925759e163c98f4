package ebb.core.execution;

import ebb.core.application.Connector;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Unreachable;
import java.util.Optional;

/** Asks an application what is true before anything is sent a second time. */
final class LookFirst {
  static Outcome apply(Connector connector, Instruction instruction) {
    if (connector.references().filter(one -> one.followOn(instruction)).isPresent()) {
      return connector.apply(instruction);
    }
    try {
      return isDone(connector, instruction)
          .<Outcome>map(account -> new Outcome.AlreadyInPlace(account))
          .orElseGet(() -> connector.apply(instruction));
    } catch (Unreachable e) {
      return new Outcome.Unknown(e.problem());
    }
  }

  /** Empty where it is not done; else the account as it stands, itself empty after a deletion. */
  private static Optional<Optional<ObservedAccount>> isDone(
      Connector connector, Instruction instruction) throws Unreachable {
    return switch (instruction) {
      case Instruction.Create(var externalId, _, _) ->
          connector.findByExternalId(externalId).map(Optional::of);
      case Instruction.Update(var id, var values, _) -> {
        var capabilities = connector.capabilities();
        yield connector
            .find(id)
            .filter(
                account ->
                    values.entrySet().stream()
                        .allMatch(
                            entry ->
                                capabilities
                                    .equalityOf(entry.getKey())
                                    .same(entry.getValue(), account.texts(entry.getKey()))))
            .map(Optional::of);
      }
      case Instruction.SetUsable(var id, var usable) ->
          connector.find(id).filter(account -> account.usable() == usable).map(Optional::of);
      case Instruction.Join(var id, var group) ->
          connector.find(id).filter(account -> account.groups().contains(group)).map(Optional::of);
      case Instruction.Leave(var id, var group) ->
          connector.find(id).filter(account -> !account.groups().contains(group)).map(Optional::of);
      case Instruction.TakeSeat(var id, var seat) ->
          connector.find(id).filter(account -> account.seats().contains(seat)).map(Optional::of);
      case Instruction.FreeSeat(var id, var seat) ->
          connector.find(id).filter(account -> !account.seats().contains(seat)).map(Optional::of);
      case Instruction.Delete(var id) ->
          connector.find(id).isPresent() ? Optional.empty() : Optional.of(Optional.empty());
      // A password cannot be looked up; setting a fresh one again does no harm.
      case Instruction.SetPassword(_, _) -> Optional.empty();
    };
  }

  private LookFirst() {}
}
