/** Tells open pages that something has changed, so that nobody need load them again. */
package ebb.service.events;
