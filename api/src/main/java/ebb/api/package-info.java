/**
 * The JSON of the REST interface, shared by service and client. Names of states and kinds are the
 * words people read; see ARCHITECTURE.md.
 */
package ebb.api;
