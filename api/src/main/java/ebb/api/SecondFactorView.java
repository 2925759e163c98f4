package ebb.api;

/**
 * A second factor to be confirmed with its first code.
 *
 * @param secret base32, to be typed where the address cannot be read
 * @param address otpauth address for an authenticator
 */
public record SecondFactorView(String secret, String address) {}
