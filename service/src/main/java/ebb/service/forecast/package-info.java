/** What dates alone will bring: as a calendar, and day by day for each person. */
package ebb.service.forecast;
