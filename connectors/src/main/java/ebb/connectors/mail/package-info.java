/** Mail over IMAP (RFC 9051, RFC 3501), and automatic replies over ManageSieve (RFC 5804). */
package ebb.connectors.mail;
