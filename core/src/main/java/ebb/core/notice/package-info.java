/** What Ebb writes to people, and the asks that go with it. Uses person and problem. */
package ebb.core.notice;
