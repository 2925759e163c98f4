/** Names: folding, and the scheme by which logins are proposed. Uses only person. */
package ebb.core.name;
