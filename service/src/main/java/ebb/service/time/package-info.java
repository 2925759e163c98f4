/**
 * The two clocks: business time, which the demo can move, and machine time for leases and delays.
 */
package ebb.service.time;
