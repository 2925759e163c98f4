/** One step on one account, its states and its legal moves. */
package ebb.core.change;
