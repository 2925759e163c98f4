package ebb.service.departures;

import ebb.store.applications.Account;

/**
 * Who gets something an account owned.
 *
 * @param account theirs in the same application; null if they have none
 * @param name for people
 * @param isPlaceholder a technical identity, whom nobody need be able to sign in as
 */
record Recipient(Account account, String name, boolean isPlaceholder) {
  String id() {
    return account.observed().id();
  }
}
