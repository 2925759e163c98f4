/** The one error vocabulary. Uses nothing else of Ebb's. */
package ebb.core.problem;
