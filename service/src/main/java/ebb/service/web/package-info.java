/** The front door: problems as answers, cursors, ETags, Idempotency-Key. */
package ebb.service.web;
