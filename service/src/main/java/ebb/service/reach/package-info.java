/** Whether people are among those an operator answers for. */
package ebb.service.reach;
