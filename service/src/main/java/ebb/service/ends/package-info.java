/** Ends that come near: who answers for somebody is told ahead, and may extend with one answer. */
package ebb.service.ends;
