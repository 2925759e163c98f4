package ebb.api;

/**
 * How far two sides agree about an attribute of those who are on both.
 *
 * @param leftEmpty how many have it on the right alone
 * @param rightEmpty how many have it on the left alone
 */
public record AgreementView(
    String attribute, long same, long differ, long leftEmpty, long rightEmpty) {}
