/** What the description of the interface says beyond what can be read off the code. */
package ebb.service.openapi;
