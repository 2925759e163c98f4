/** The companion interface: what SCIM and LDAP have no words for. */
package ebb.connectors.companion;
