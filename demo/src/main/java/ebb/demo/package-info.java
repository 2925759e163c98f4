/** The example of Skerrow Ferries: made-up people, and the whole job done through the client. */
package ebb.demo;
