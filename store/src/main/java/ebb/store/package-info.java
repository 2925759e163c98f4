/** The database itself: transactions, durability, numbering, JSON columns. Features are below. */
package ebb.store;
