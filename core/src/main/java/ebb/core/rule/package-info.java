/**
 * Who should hold what, and why: the pure function from inputs and an instant to desired accounts.
 */
package ebb.core.rule;
