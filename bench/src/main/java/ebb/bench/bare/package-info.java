/** A service of the same starters with nothing of ours in it: what starting costs by itself. */
package ebb.bench.bare;
