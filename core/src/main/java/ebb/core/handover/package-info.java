/** What an account owns, and the proof that it arrived elsewhere. Pure. */
package ebb.core.handover;
