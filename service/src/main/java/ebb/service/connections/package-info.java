/** Open connections to the applications. */
package ebb.service.connections;
