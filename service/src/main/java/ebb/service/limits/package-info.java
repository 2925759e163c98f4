/** The numbers the guard measures by. */
package ebb.service.limits;
