/** What is still open to accounts that were switched off, and how each of it is shut or waived. */
package ebb.service.ways;
