/** Change sets: proposed, released, carried out, taken back. The one path into the applications. */
package ebb.service.changes;
