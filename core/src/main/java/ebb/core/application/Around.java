package ebb.core.application;

import java.util.List;
import java.util.Optional;

/** A connector around another: whatever it does not say otherwise is as the other says. */
public abstract class Around implements Connector {
  protected final Connector accounts;

  protected Around(Connector accounts) {
    this.accounts = accounts;
  }

  @Override
  public Capabilities capabilities() throws Unreachable {
    return accounts.capabilities();
  }

  @Override
  public Inspection inspect() throws Unreachable {
    return accounts.inspect();
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
    return accounts.ownership();
  }

  @Override
  public List<Carrier> carriers() {
    return accounts.carriers();
  }

  @Override
  public Optional<Replies> replies() {
    return accounts.replies();
  }

  @Override
  public Optional<References> references() {
    return accounts.references();
  }

  @Override
  public Optional<WaysIn> waysIn() {
    return accounts.waysIn();
  }

  @Override
  public Optional<Sessions> sessions() {
    return accounts.sessions();
  }

  @Override
  public Optional<Activity> activity() {
    return accounts.activity();
  }

  @Override
  public Optional<EarlierItems> earlierItems() {
    return accounts.earlierItems();
  }

  @Override
  public Optional<Seats> seats() {
    return accounts.seats();
  }

  @Override
  public void close() {
    accounts.close();
  }
}
