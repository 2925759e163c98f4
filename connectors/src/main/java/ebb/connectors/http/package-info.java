/** JSON over HTTP, as the connectors need it. */
package ebb.connectors.http;
