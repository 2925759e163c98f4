/** What is desired against what is held, application by application. */
package ebb.core.compare;
