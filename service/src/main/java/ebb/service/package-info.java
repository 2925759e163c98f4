/**
 * The long-running service. Each package below is a feature: its use cases and its REST interface.
 */
package ebb.service;
