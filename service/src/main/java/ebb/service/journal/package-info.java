/** Seals the journal, shows it, and checks that it is whole. */
package ebb.service.journal;
