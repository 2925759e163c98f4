/** The port to connected applications, in Ebb's own words. Uses person and problem. */
package ebb.core.application;
