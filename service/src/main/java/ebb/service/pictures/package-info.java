/** Pictures of people: kept once each, called by their print. */
package ebb.service.pictures;
