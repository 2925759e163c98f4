package ebb.service.departures;

import ebb.core.departure.Departure;
import ebb.store.applications.Account;
import ebb.store.departures.DepartureAccount;
import java.util.Optional;

/**
 * What is known of an account of a departure when it is looked at.
 *
 * @param recipient their account in the same application; empty while there is none
 */
record PartView(
    DepartureAccount part,
    Departure departure,
    Account account,
    Optional<Account> recipient,
    int restoreDays) {}
