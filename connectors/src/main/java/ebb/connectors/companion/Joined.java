package ebb.connectors.companion;

import ebb.core.application.Activity;
import ebb.core.application.Capabilities;
import ebb.core.application.Connector;
import ebb.core.application.Details;
import ebb.core.application.Inspection;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Ownership;
import ebb.core.application.Part;
import ebb.core.application.Reading;
import ebb.core.application.References;
import ebb.core.application.Seats;
import ebb.core.application.Sessions;
import ebb.core.application.Sightings;
import ebb.core.application.Unreachable;
import ebb.core.application.WaysIn;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.Optional;

/** A connector joined by the companion interface, for what its own protocol has no words for. */
public final class Joined implements Connector {
  private final Connector accounts;
  private final CompanionClient companion;

  public Joined(Connector accounts, CompanionClient companion) {
    this.accounts = accounts;
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
  public Reading read(String since, Sightings to) throws Unreachable {
    return accounts.read(since, to);
  }

  @Override
  public Optional<Details> details(String accountId) throws Unreachable {
    return accounts.details(accountId);
  }

  @Override
  public Optional<ObservedAccount> find(String accountId) throws Unreachable {
    return accounts.find(accountId);
  }

  @Override
  public Optional<ObservedAccount> findByExternalId(String externalId) throws Unreachable {
    return accounts.findByExternalId(externalId);
  }

  @Override
  public Outcome apply(Instruction instruction) {
    return accounts.apply(instruction);
  }

  @Override
  public Optional<Ownership> ownership() {
    return companion.ownership().or(accounts::ownership);
  }

  @Override
  public Optional<References> references() {
    return companion.references().or(accounts::references);
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
  public Optional<Seats> seats() {
    return companion.seats().or(accounts::seats);
  }

  @Override
  public void close() {
    accounts.close();
    companion.close();
  }
}
