/** Accounts that nobody signs in to, and whether they are still needed. */
package ebb.core.dormancy;
