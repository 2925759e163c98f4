/** Carrying what accounts own over protocols that hand nothing over, joined to an application. */
package ebb.connectors.carry;
