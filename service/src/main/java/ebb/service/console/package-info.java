/** Serves the console's one page; its files lie in the jar. */
package ebb.service.console;
