/** Who says what of people, whom one believes, and what would be said if a source fell silent. */
package ebb.service.authority;
