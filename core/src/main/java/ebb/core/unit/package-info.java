/** The organisation's tree of units. Uses nothing. */
package ebb.core.unit;
