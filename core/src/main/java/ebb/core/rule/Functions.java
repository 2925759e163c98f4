package ebb.core.rule;

import dev.cel.common.CelFunctionDecl;
import dev.cel.common.CelOverloadDecl;
import dev.cel.common.types.SimpleType;
import dev.cel.runtime.CelFunctionBinding;
import ebb.core.name.Folding;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;

/** What expressions can do beyond CEL itself and its functions of texts. */
final class Functions {
  /** Longer than any number a person goes by. */
  private static final int LONGEST = 64;

  static final List<CelFunctionDecl> DECLARED =
      List.of(
          CelFunctionDecl.newFunctionDeclaration(
              "fold",
              CelOverloadDecl.newGlobalOverload(
                  "fold_string", SimpleType.STRING, SimpleType.STRING)),
          CelFunctionDecl.newFunctionDeclaration(
              "initials",
              CelOverloadDecl.newGlobalOverload(
                  "initials_string", SimpleType.STRING, SimpleType.STRING)),
          CelFunctionDecl.newFunctionDeclaration(
              "pad",
              CelOverloadDecl.newGlobalOverload(
                  "pad_string_int", SimpleType.STRING, SimpleType.STRING, SimpleType.INT)));

  static final List<CelFunctionBinding> BOUND =
      List.of(
          CelFunctionBinding.from("fold_string", String.class, Folding::toAscii),
          CelFunctionBinding.from("initials_string", String.class, Functions::initials),
          CelFunctionBinding.from("pad_string_int", String.class, Long.class, Functions::pad));

  /** The first letter of each part of a name, as it is written there. */
  private static String initials(String name) {
    return Arrays.stream(name.strip().split("[\\s-]+"))
        .filter(part -> !part.isEmpty())
        .map(part -> part.substring(0, part.offsetByCodePoints(0, 1)))
        .collect(Collectors.joining());
  }

  /** With zeros before it, until it is so long; one that is longer stays as it is. */
  private static String pad(String text, long length) {
    var missing = Math.min(length, LONGEST) - text.length();
    return "0".repeat((int) Math.max(0, missing)) + text;
  }

  private Functions() {}
}
