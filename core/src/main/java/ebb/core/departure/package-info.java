/** The case that takes accounts from use to removal: steps and gates. Pure. */
package ebb.core.departure;
