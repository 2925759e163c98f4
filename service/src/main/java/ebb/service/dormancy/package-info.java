/** Accounts that are in use and that nobody uses. */
package ebb.service.dormancy;
