/** Files brought in: read, checked, matched, shown; rows set aside and missing people decided. */
package ebb.service.imports;
