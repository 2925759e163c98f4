package ebb.core.application;

/** A password or token. Shows itself to nobody by accident. */
public record Secret(String reveal) {
  @Override
  public String toString() {
    return "(secret)";
  }
}
