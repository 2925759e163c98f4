/** What happens by itself because a date is reached. */
package ebb.service.dates;
