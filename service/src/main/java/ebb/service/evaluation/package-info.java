/** Computes, for people, what their accounts should be and how that differs from what is held. */
package ebb.service.evaluation;
