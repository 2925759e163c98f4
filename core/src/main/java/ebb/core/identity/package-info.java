/** Who is who: two records of one person made one, and one made of two people parted again. */
package ebb.core.identity;
