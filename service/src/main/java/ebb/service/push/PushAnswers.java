package ebb.service.push;

import com.fasterxml.jackson.databind.JsonNode;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.web.ProblemAnswers;
import java.util.List;
import org.apache.tomcat.util.http.InvalidParameterException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;

/** Answers in the media type of SCIM (RFC 7644, section 3.1), errors too. */
@RestControllerAdvice(assignableTypes = {PushController.class, DiscoveryController.class})
@Order(Ordered.HIGHEST_PRECEDENCE)
class PushAnswers {
  static final MediaType SCIM = MediaType.valueOf("application/scim+json");

  private static final Logger LOG = LoggerFactory.getLogger(PushAnswers.class);

  static ResponseEntity<String> answer(HttpStatus status, JsonNode body) {
    return ResponseEntity.status(status).contentType(SCIM).body(body.toString());
  }

  @ExceptionHandler(Refusal.class)
  ResponseEntity<String> refused(Refusal refusal) {
    return answer(ProblemAnswers.status(refusal.kind()), ScimErrors.body(refusal));
  }

  @ExceptionHandler(MethodArgumentTypeMismatchException.class)
  ResponseEntity<String> mistyped(MethodArgumentTypeMismatchException e) {
    return refused(
        Refusal.invalid(
            new Problem(
                "scim-value-invalid",
                "%s cannot be %s.".formatted(e.getName(), e.getValue()),
                "It is a number (RFC 7644, section 3.4.2.4).",
                "Correct it, or leave it out.",
                Where.field(e.getName()))));
  }

  /** A filter that was lost on the way would find everybody. */
  @ExceptionHandler(InvalidParameterException.class)
  ResponseEntity<String> unreadable(InvalidParameterException e) {
    return refused(Refusal.invalid(ProblemAnswers.unreadable(e)));
  }

  @ExceptionHandler(Exception.class)
  ResponseEntity<String> failed(Exception e) {
    LOG.error("A push met a fault of Ebb's own", e);
    return answer(
        HttpStatus.INTERNAL_SERVER_ERROR,
        ScimErrors.body(HttpStatus.INTERNAL_SERVER_ERROR, List.of(ProblemAnswers.FAULT)));
  }
}
