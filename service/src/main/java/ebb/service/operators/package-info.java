/** Who works with Ebb: operators, their tokens, the first start, and requests sent twice. */
package ebb.service.operators;
