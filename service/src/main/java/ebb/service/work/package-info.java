/** Work that Ebb still has to finish: each feature counts its own. */
package ebb.service.work;
