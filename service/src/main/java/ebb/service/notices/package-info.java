/** What Ebb writes to people, and the asks they answer. */
package ebb.service.notices;
