/** Files over WebDAV (RFC 4918). */
package ebb.connectors.dav;
