/** Standing sources: where deliveries come from, when, and what follows from them by itself. */
package ebb.core.feed;
