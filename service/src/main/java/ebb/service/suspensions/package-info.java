/** Keeps people out of applications for a time, and brings them back: as inputs of a change set. */
package ebb.service.suspensions;
