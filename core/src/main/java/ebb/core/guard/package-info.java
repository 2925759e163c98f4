/** Limits that stop what is too large or too strange to be true. */
package ebb.core.guard;
