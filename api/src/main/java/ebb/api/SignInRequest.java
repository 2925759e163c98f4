package ebb.api;

/**
 * Signs an operator in.
 *
 * @param code of the second factor; null where there is none
 */
public record SignInRequest(String name, String password, String code) {}
