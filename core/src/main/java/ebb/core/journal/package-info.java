/** The append-only record: salted commitments in a hash chain. */
package ebb.core.journal;
