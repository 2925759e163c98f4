/**
 * Who somebody is: what the sources assert, and the person that follows from it. Uses only problem.
 */
package ebb.core.person;
