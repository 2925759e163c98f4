/** The attributes an organisation defines for itself. */
package ebb.service.attributes;
