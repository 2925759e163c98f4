/** Getting deliveries: from a folder, over HTTP, over SFTP. */
package ebb.connectors.feed;
