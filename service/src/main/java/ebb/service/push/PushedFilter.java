package ebb.service.push;

import com.fasterxml.jackson.databind.node.ValueNode;
import com.unboundid.scim2.common.Path;
import com.unboundid.scim2.common.exceptions.BadRequestException;
import com.unboundid.scim2.common.exceptions.ScimException;
import com.unboundid.scim2.common.filters.AndFilter;
import com.unboundid.scim2.common.filters.ComparisonFilter;
import com.unboundid.scim2.common.filters.ComplexValueFilter;
import com.unboundid.scim2.common.filters.ContainsFilter;
import com.unboundid.scim2.common.filters.EndsWithFilter;
import com.unboundid.scim2.common.filters.EqualFilter;
import com.unboundid.scim2.common.filters.Filter;
import com.unboundid.scim2.common.filters.FilterVisitor;
import com.unboundid.scim2.common.filters.GreaterThanFilter;
import com.unboundid.scim2.common.filters.GreaterThanOrEqualFilter;
import com.unboundid.scim2.common.filters.LessThanFilter;
import com.unboundid.scim2.common.filters.LessThanOrEqualFilter;
import com.unboundid.scim2.common.filters.NotEqualFilter;
import com.unboundid.scim2.common.filters.NotFilter;
import com.unboundid.scim2.common.filters.OrFilter;
import com.unboundid.scim2.common.filters.PresentFilter;
import com.unboundid.scim2.common.filters.StartsWithFilter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.BiFunction;

/**
 * Filters as senders write them (RFC 7644, section 3.4.2.2), in the one form in which they are
 * looked up: core attributes without their URN, and of values that are several the value itself.
 */
final class PushedFilter implements FilterVisitor<Filter, Void> {
  /** What has "value" where no sub-attribute is named (RFC 7643, section 2.4). */
  private static final Set<String> OF_SEVERAL =
      Set.of(
          "emails",
          "phonenumbers",
          "ims",
          "photos",
          "groups",
          "entitlements",
          "roles",
          "x509certificates",
          "members");

  private static final Set<String> CORE =
      Set.of(PushSchemas.USER.toLowerCase(Locale.ROOT), PushSchemas.GROUP.toLowerCase(Locale.ROOT));

  private PushedFilter() {}

  /**
   * @throws ebb.core.problem.Refusal if it cannot be understood to its end
   */
  static Filter parse(String text) {
    try {
      if (isLeftOpen(text)) {
        throw BadRequestException.invalidFilter("A bracket is opened and never closed: " + text);
      }
      return Filter.fromString(text).visit(new PushedFilter(), null);
    } catch (ScimException e) {
      throw ScimErrors.refusal(e);
    }
  }

  /** The library closes what the sender left open, and would find what nobody asked for. */
  static boolean isLeftOpen(String text) {
    int open = 0;
    boolean isQuoted = false;
    for (int i = 0; i < text.length(); i++) {
      char one = text.charAt(i);
      if (isQuoted && one == '\\') {
        i++;
      } else if (one == '"') {
        isQuoted = !isQuoted;
      } else if (!isQuoted) {
        open += one == '[' ? 1 : one == ']' ? -1 : 0;
      }
    }
    return open != 0;
  }

  private static Path plain(Path path) {
    var urn = path.getSchemaUrn();
    if (urn == null || !CORE.contains(urn.toLowerCase(Locale.ROOT))) {
      return path;
    }
    var plain = Path.root();
    for (var element : path) {
      plain = plain.attribute(element.getAttribute(), element.getValueFilter());
    }
    return plain;
  }

  private static Path compared(Path path) {
    var plain = plain(path);
    var isWhole =
        plain.size() == 1
            && plain.getSchemaUrn() == null
            && plain.getElement(0).getValueFilter() == null
            && OF_SEVERAL.contains(plain.getElement(0).getAttribute().toLowerCase(Locale.ROOT));
    return isWhole ? plain.attribute("value") : plain;
  }

  private static Filter compared(
      ComparisonFilter filter, BiFunction<Path, ValueNode, Filter> comparison) {
    return comparison.apply(compared(filter.getAttributePath()), filter.getComparisonValue());
  }

  @Override
  public Filter visit(EqualFilter filter, Void nothing) {
    return compared(filter, Filter::eq);
  }

  @Override
  public Filter visit(NotEqualFilter filter, Void nothing) {
    return compared(filter, Filter::ne);
  }

  @Override
  public Filter visit(ContainsFilter filter, Void nothing) {
    return compared(filter, Filter::co);
  }

  @Override
  public Filter visit(StartsWithFilter filter, Void nothing) {
    return compared(filter, Filter::sw);
  }

  @Override
  public Filter visit(EndsWithFilter filter, Void nothing) {
    return compared(filter, Filter::ew);
  }

  @Override
  public Filter visit(GreaterThanFilter filter, Void nothing) {
    return compared(filter, Filter::gt);
  }

  @Override
  public Filter visit(GreaterThanOrEqualFilter filter, Void nothing) {
    return compared(filter, Filter::ge);
  }

  @Override
  public Filter visit(LessThanFilter filter, Void nothing) {
    return compared(filter, Filter::lt);
  }

  @Override
  public Filter visit(LessThanOrEqualFilter filter, Void nothing) {
    return compared(filter, Filter::le);
  }

  @Override
  public Filter visit(PresentFilter filter, Void nothing) {
    return Filter.pr(plain(filter.getAttributePath()));
  }

  @Override
  public Filter visit(AndFilter filter, Void nothing) throws ScimException {
    return Filter.and(all(filter.getCombinedFilters()));
  }

  @Override
  public Filter visit(OrFilter filter, Void nothing) throws ScimException {
    return Filter.or(all(filter.getCombinedFilters()));
  }

  @Override
  public Filter visit(NotFilter filter, Void nothing) throws ScimException {
    return Filter.not(filter.getInvertedFilter().visit(this, nothing));
  }

  @Override
  public Filter visit(ComplexValueFilter filter, Void nothing) {
    return Filter.complex(plain(filter.getAttributePath()), filter.getValueFilter());
  }

  private List<Filter> all(List<Filter> filters) throws ScimException {
    var all = new ArrayList<Filter>();
    for (var filter : filters) {
      all.add(filter.visit(this, null));
    }
    return all;
  }
}
