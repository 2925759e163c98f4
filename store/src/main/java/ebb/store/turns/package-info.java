/** Work of which only one goes on at a time, in all processes. */
package ebb.store.turns;
