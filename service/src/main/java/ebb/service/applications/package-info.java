/** Applications and rules: connecting, editing, reading all accounts, finding what drifted. */
package ebb.service.applications;
