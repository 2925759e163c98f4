/** Carries changes out: claim, call with no transaction open, record. */
package ebb.core.execution;
