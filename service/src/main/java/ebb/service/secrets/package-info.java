/** The key under which secrets are sealed, and how it is changed. */
package ebb.service.secrets;
