/** Reads files as sources of rows. */
package ebb.connectors.file;
