/** Reading applications, and what to do about what is found in them. */
package ebb.service.sync;
