package ebb.service.push;

import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.exceptions.BadRequestException;
import com.unboundid.scim2.common.exceptions.ScimException;
import com.unboundid.scim2.common.utils.JsonUtils;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.web.ProblemAnswers;
import java.util.List;
import java.util.Map;
import org.springframework.http.HttpStatus;

/** Problems as SCIM says them (RFC 7644, section 3.12), with all of ours in an extension. */
final class ScimErrors {
  static final String SYNTAX = "scim-syntax-invalid";
  static final String TAKEN = "scim-taken";
  static final String READ_ONLY = "scim-read-only";
  static final String FILTER = "scim-filter-invalid";
  static final String PATH = "scim-path-invalid";
  static final String NO_TARGET = "scim-no-target";
  private static final String VALUE = "scim-value-invalid";

  private static final String SCHEMA = "urn:ietf:params:scim:api:messages:2.0:Error";
  private static final String PROBLEMS = "urn:ebb:scim:api:messages:1.0:Problems";

  /** The types of RFC 7644, table 9, by the codes of ours that are more than a wrong value. */
  private static final Map<String, String> TYPES =
      Map.of(
          SYNTAX,
          BadRequestException.INVALID_SYNTAX,
          "scim-body-invalid",
          BadRequestException.INVALID_SYNTAX,
          "scim-schema-missing",
          BadRequestException.INVALID_SYNTAX,
          "scim-attribute-unknown",
          BadRequestException.INVALID_SYNTAX,
          TAKEN,
          BadRequestException.UNIQUENESS,
          READ_ONLY,
          BadRequestException.MUTABILITY,
          FILTER,
          BadRequestException.INVALID_FILTER,
          PATH,
          BadRequestException.INVALID_PATH,
          NO_TARGET,
          BadRequestException.NO_TARGET);

  private static final Map<String, String> CODES =
      Map.of(
          BadRequestException.INVALID_SYNTAX, SYNTAX,
          BadRequestException.MUTABILITY, READ_ONLY,
          BadRequestException.INVALID_FILTER, FILTER,
          BadRequestException.INVALID_PATH, PATH,
          BadRequestException.NO_TARGET, NO_TARGET);

  /** What the library found amiss, in our words. */
  static Refusal refusal(ScimException e) {
    var type = e.getScimError().getScimType();
    var code = type == null ? VALUE : CODES.getOrDefault(type, VALUE);
    return Refusal.invalid(
        new Problem(
            code,
            "The request cannot be carried out as it is written.",
            String.valueOf(e.getMessage()),
            code.equals(FILTER)
                ? "Write the filter as RFC 7644, section 3.4.2.2 describes it."
                : "Write the path and the value as RFC 7644, section 3.5.2 describes them.",
            Where.field(code.equals(FILTER) ? "filter" : "path")));
  }

  static ObjectNode body(Refusal refusal) {
    return body(ProblemAnswers.status(refusal.kind()), refusal.problems());
  }

  static ObjectNode body(HttpStatus status, List<Problem> problems) {
    var out = JsonUtils.getJsonNodeFactory().objectNode();
    out.putArray("schemas").add(SCHEMA).add(PROBLEMS);
    out.put("status", Integer.toString(status.value()));
    var first = problems.getFirst();
    if (status == HttpStatus.BAD_REQUEST || TYPES.containsKey(first.code())) {
      out.put("scimType", TYPES.getOrDefault(first.code(), BadRequestException.INVALID_VALUE));
    }
    out.put("detail", detail(problems));
    var all = out.putObject(PROBLEMS).putArray("problems");
    for (var problem : problems) {
      var one = all.addObject();
      one.put("code", problem.code());
      one.put("what", problem.what());
      one.put("why", problem.why());
      one.put("remedy", problem.remedy());
      if (problem.where() != null && problem.where().column() != null) {
        one.put("field", problem.where().column());
      }
    }
    return out;
  }

  private static String detail(List<Problem> problems) {
    var first = problems.getFirst();
    var others = problems.size() - 1;
    return "%s %s %s%s"
        .formatted(
            first.what(),
            first.why(),
            first.remedy(),
            others == 0 ? "" : " (And %d more, under %s.)".formatted(others, PROBLEMS));
  }

  private ScimErrors() {}
}
