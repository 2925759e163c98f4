/** Applications that speak SCIM 2.0 (RFC 7643, 7644). */
package ebb.connectors.scim;
