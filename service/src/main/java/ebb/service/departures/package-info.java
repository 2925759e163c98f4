/** Departures and closings: begun, followed step by step, shown with their gates. */
package ebb.service.departures;
