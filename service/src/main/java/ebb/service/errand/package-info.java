/** What needs an operator: each part of the service says so for itself. */
package ebb.service.errand;
