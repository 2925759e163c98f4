/** Feeds: got or found come, read, and let through by themselves within the guard. */
package ebb.service.feeds;
