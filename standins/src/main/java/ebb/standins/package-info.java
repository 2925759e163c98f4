/**
 * Simulated applications for the demo and the tests. They speak the real protocols over loopback,
 * fail on demand, and import nothing of Ebb's.
 */
package ebb.standins;
