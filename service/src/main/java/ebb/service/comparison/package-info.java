/** Two applications, or a source and an application, side by side. */
package ebb.service.comparison;
