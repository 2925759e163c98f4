/** Rules: shown, checked, and edited through a rehearsal of what follows. */
package ebb.service.rules;
