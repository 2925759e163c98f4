/** Directories that speak LDAP v3 (RFC 4510 and following). */
package ebb.connectors.ldap;
