package ebb.service.departures;

import ebb.core.departure.Departure;
import ebb.store.applications.Account;
import ebb.store.departures.DepartureAccount;

/**
 * What is known of an account of a departure when it is looked at.
 *
 * @param shares who gets what of it
 */
record PartView(
    DepartureAccount part, Departure departure, Account account, Shares shares, int restoreDays) {}
