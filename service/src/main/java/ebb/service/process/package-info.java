/** What a process does when it starts on a database that another one used before. */
package ebb.service.process;
