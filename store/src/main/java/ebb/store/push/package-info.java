/** What senders push over SCIM, kept as they sent it. */
package ebb.store.push;
