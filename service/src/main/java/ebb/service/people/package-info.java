/** People: finding them, editing by hand, grants, holds, resets. */
package ebb.service.people;
