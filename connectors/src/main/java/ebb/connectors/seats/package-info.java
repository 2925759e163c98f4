/** How accounts of an application take seats, whatever stands for one there. */
package ebb.connectors.seats;
