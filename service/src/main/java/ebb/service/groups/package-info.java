/** Groups across applications, and who is in them and why. */
package ebb.service.groups;
