package ebb.bench;

/** A program that prints one line: what starting a client costs by itself. */
public final class OneLine {
  public static void main(String[] arguments) {
    System.out.println("ebb 0.1.0");
  }

  private OneLine() {}
}
