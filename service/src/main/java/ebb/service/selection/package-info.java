/**
 * Whom an act is about: people by number, or all a filter finds, counted before anything is done.
 */
package ebb.service.selection;
