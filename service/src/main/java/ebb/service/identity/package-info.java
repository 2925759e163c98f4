/** Who is who: people who are alike, records made one, and records parted. */
package ebb.service.identity;
