/** The command-line client: speaks to the service over its REST interface only. */
package ebb.cli;
