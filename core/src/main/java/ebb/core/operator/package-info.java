/** Who works with Ebb, and what they may do. */
package ebb.core.operator;
