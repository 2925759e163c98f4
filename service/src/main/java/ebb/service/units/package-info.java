/** The tree of units: shown, and followed where rules go by it. */
package ebb.service.units;
