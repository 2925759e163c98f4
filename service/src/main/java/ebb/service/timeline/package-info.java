/** One person over time, and why they hold what they hold. */
package ebb.service.timeline;
