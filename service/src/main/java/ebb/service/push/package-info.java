/**
 * SCIM inbound (RFC 7643, 7644): what a sender pushes waits here until a delivery is made of it.
 */
package ebb.service.push;
