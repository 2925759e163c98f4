/** Feeds, and what each look for a delivery found. */
package ebb.store.feeds;
