package ebb.api;

/** Says once what a code of a source means; it is remembered. */
public record CodeRequest(String attribute, String code, String meaning) {}
