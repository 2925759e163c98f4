/** Finds whatever somebody types, wherever they are. */
package ebb.service.find;
