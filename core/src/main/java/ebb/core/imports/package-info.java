/** From rows of a file to verdicts: mapping, checking, matching. Pure. */
package ebb.core.imports;
