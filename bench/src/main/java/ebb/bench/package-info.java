/** What is fast is measured here, each against a baseline of the same run. */
package ebb.bench;
