package ebb.core.imports;

import ebb.core.person.Attribute;
import ebb.core.person.Attributes;
import ebb.core.person.Catalogue;
import ebb.core.problem.Where;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.time.format.ResolverStyle;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;

/** What the values of a column say of it. */
final class Values {
  /** How people write dates. Those with a point or a slash may mean either of two orders. */
  private static final List<String> DATE_FORMATS =
      List.of(
          "uuuu-MM-dd",
          "d.M.uuuu",
          "d/M/uuuu",
          "M/d/uuuu",
          "d-M-uuuu",
          "M-d-uuuu",
          "uuuu/M/d",
          "uuuuMMdd",
          "d.M.uu",
          "d/M/uu",
          "M/d/uu");

  /** Slips do not make another kind of column. */
  static final double MOST = 0.75;

  private static final double SOME = 0.25;

  enum Fit {
    SAY_SO,
    ALLOW,
    /** Some look like it and some do not: slips, or another kind of column. */
    DIVIDE,
    CONTRADICT
  }

  static Fit fit(Attribute attribute, List<String> values, Set<String> units) {
    if (values.isEmpty()) {
      return Fit.ALLOW;
    }
    return switch (attribute.type()) {
      case DATE -> fit(share(values, Values::isDate), true);
      case EMAIL, PHONE, ZONE, CHOICE, NUMBER, YES_NO -> {
        var check = new ValueCheck(Catalogue.with(List.of(attribute)), DATE_FORMATS.getFirst());
        var where = Where.field(attribute.name());
        yield fit(
            share(
                values,
                value -> check.of(attribute.name(), value, where) instanceof ValueCheck.Good),
            tellsApart(attribute));
      }
      case TEXT, PERSON ->
          attribute.name().equals(Attributes.DEPARTMENT) && share(values, units::contains) >= MOST
              ? Fit.SAY_SO
              : Fit.ALLOW;
    };
  }

  private static Fit fit(double share, boolean tellsApart) {
    if (share >= MOST) {
      return tellsApart ? Fit.SAY_SO : Fit.ALLOW;
    }
    return share >= SOME ? Fit.DIVIDE : Fit.CONTRADICT;
  }

  /** Numbers, and yes and no, may be anything; an address or a zone is hardly anything else. */
  private static boolean tellsApart(Attribute attribute) {
    return switch (attribute.type()) {
      case EMAIL, ZONE, CHOICE -> true;
      default -> false;
    };
  }

  /**
   * Every format in which all the dates can be read, ISO 8601 aside, which always can, and slips
   * aside, which nobody can read. Where several do, they cannot be told apart; where none does, the
   * dates are written in several ways.
   */
  static List<String> dateFormats(List<String> dates) {
    var others =
        dates.stream()
            .filter(date -> !isDate(date, DATE_FORMATS.getFirst()))
            .filter(Values::isDate)
            .toList();
    if (others.isEmpty()) {
      return List.of(DATE_FORMATS.getFirst());
    }
    return DATE_FORMATS.stream()
        .filter(format -> others.stream().allMatch(date -> isDate(date, format)))
        .toList();
  }

  static boolean isOfDates(Attribute attribute) {
    return attribute.type() == Attribute.Type.DATE;
  }

  private static boolean isDate(String text) {
    return DATE_FORMATS.stream().anyMatch(format -> isDate(text, format));
  }

  private static boolean isDate(String text, String format) {
    try {
      LocalDate.parse(
          text, DateTimeFormatter.ofPattern(format).withResolverStyle(ResolverStyle.STRICT));
      return true;
    } catch (DateTimeParseException _) {
      return false;
    }
  }

  private static double share(List<String> values, Predicate<String> condition) {
    return values.stream().filter(condition).count() / (double) values.size();
  }

  private Values() {}
}
