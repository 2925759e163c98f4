package ebb.standins;

import java.time.Duration;

/** How the mail and document house behaves; may be changed while it is open. */
public final class Manners {
  volatile Duration delay = Duration.ZERO;
  volatile Duration settling = Duration.ZERO;
  volatile boolean normalises;
  volatile boolean strict;
  volatile boolean patches = true;
  volatile boolean filters = true;
  volatile boolean versions = true;
  volatile boolean cursors;
  volatile boolean bulk;
  volatile boolean showsGroups = true;
  volatile boolean keepsDeleted;
  volatile boolean dropsGroups;
  volatile int largestPage = 100;

  /** Every answer takes so long. */
  public Manners delay(Duration delay) {
    this.delay = delay;
    return this;
  }

  /** What was written can only be read so long after. */
  public Manners settling(Duration settling) {
    this.settling = settling;
    return this;
  }

  /** Spells names, addresses and numbers in its own way. */
  public Manners normalises(boolean normalises) {
    this.normalises = normalises;
    return this;
  }

  /** Refuses what its schemas do not know, people without a family name, and blind changes. */
  public Manners strict(boolean strict) {
    this.strict = strict;
    return this;
  }

  /** Whether it takes PATCH; else only PUT. */
  public Manners patches(boolean patches) {
    this.patches = patches;
    return this;
  }

  /** Whether lists can be filtered. */
  public Manners filters(boolean filters) {
    this.filters = filters;
    return this;
  }

  /** Whether resources have versions (RFC 7644, 3.14). */
  public Manners versions(boolean versions) {
    this.versions = versions;
    return this;
  }

  /** Whether lists are paged by cursor alone (RFC 9865). */
  public Manners cursors(boolean cursors) {
    this.cursors = cursors;
    return this;
  }

  /** Whether it takes many operations in one request (RFC 7644, 3.7). */
  public Manners bulk(boolean bulk) {
    this.bulk = bulk;
    return this;
  }

  /** Whether accounts show the groups they are in. */
  public Manners showsGroups(boolean showsGroups) {
    this.showsGroups = showsGroups;
    return this;
  }

  /** Whether a deleted account stays, switched off, and can be switched on again. */
  public Manners keepsDeleted(boolean keepsDeleted) {
    this.keepsDeleted = keepsDeleted;
    return this;
  }

  /** Whether whoever is switched off leaves all groups. */
  public Manners dropsGroups(boolean dropsGroups) {
    this.dropsGroups = dropsGroups;
    return this;
  }

  public Manners largestPage(int largestPage) {
    this.largestPage = largestPage;
    return this;
  }
}
