/** What will happen by itself: the computation of what should be, asked about later instants. */
package ebb.core.forecast;
