/** What is under way, and what waits for somebody. */
package ebb.service.now;
