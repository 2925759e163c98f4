package ebb.service.web;

import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.apache.tomcat.util.http.InvalidParameterException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.HttpStatusCode;
import org.springframework.http.MediaType;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.http.converter.json.ProblemDetailJacksonMixin;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.WebRequest;
import org.springframework.web.servlet.mvc.method.annotation.ResponseEntityExceptionHandler;
import tools.jackson.databind.json.JsonMapper;

/** Every error as a problem document (RFC 9457) with a code and a remedy. */
@RestControllerAdvice
public final class ProblemAnswers extends ResponseEntityExceptionHandler {
  public static final Problem FAULT =
      new Problem(
          "fault",
          "Ebb met a fault of its own.",
          "What was asked may have been done in part; the log has the details.",
          "Look whether it was done, then try again; tell whoever runs Ebb.",
          null);

  private static final Logger LOG = LoggerFactory.getLogger(ProblemAnswers.class);
  private static final JsonMapper JSON =
      JsonMapper.builder().addMixIn(ProblemDetail.class, ProblemDetailJacksonMixin.class).build();

  @ExceptionHandler(Refusal.class)
  ResponseEntity<ProblemDetail> refused(Refusal refusal) {
    return answer(status(refusal.kind()), refusal.problems());
  }

  @ExceptionHandler(InvalidParameterException.class)
  ResponseEntity<ProblemDetail> unreadableParameter(InvalidParameterException e) {
    return answer(HttpStatus.BAD_REQUEST, List.of(unreadable(e)));
  }

  /** What stands after a % in an address is no text. */
  public static Problem unreadable(InvalidParameterException e) {
    return new Problem(
        "address-unreadable",
        "The address of the request cannot be read.",
        String.valueOf(e.getCause() == null ? e.getMessage() : e.getCause().getMessage()),
        "Encode what follows the ? as RFC 3986, section 2.1 says, in UTF-8.",
        null);
  }

  @ExceptionHandler(Exception.class)
  ResponseEntity<ProblemDetail> failed(Exception e) {
    LOG.error("A request met a fault of Ebb's own", e);
    return answer(HttpStatus.INTERNAL_SERVER_ERROR, List.of(FAULT));
  }

  @Override
  protected ResponseEntity<Object> handleHttpMessageNotReadable(
      HttpMessageNotReadableException e,
      HttpHeaders headers,
      HttpStatusCode status,
      WebRequest request) {
    return body(
        answer(
            HttpStatus.BAD_REQUEST,
            List.of(
                new Problem(
                    "body-invalid",
                    "The body of the request cannot be read.",
                    String.valueOf(e.getMostSpecificCause().getMessage()),
                    "Send JSON as /api/v1/openapi.json describes it.",
                    Where.field("body")))));
  }

  @Override
  protected ResponseEntity<Object> handleExceptionInternal(
      Exception e, Object body, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
    return body(
        answer(
            HttpStatus.valueOf(status.value()),
            List.of(
                new Problem(
                    "request-invalid",
                    e.getMessage(),
                    "The request does not fit the interface.",
                    "See /api/v1/openapi.json.",
                    null))));
  }

  @SuppressWarnings({"unchecked", "rawtypes"})
  private static ResponseEntity<Object> body(ResponseEntity<ProblemDetail> answer) {
    return (ResponseEntity) answer;
  }

  private static ResponseEntity<ProblemDetail> answer(
      HttpStatusCode status, List<Problem> problems) {
    return ResponseEntity.status(status).body(detail(status, problems));
  }

  private static ProblemDetail detail(HttpStatusCode status, List<Problem> problems) {
    var first = problems.getFirst();
    var detail = ProblemDetail.forStatusAndDetail(status, first.why());
    detail.setType(URI.create("urn:ebb:problem:" + first.code()));
    detail.setTitle(first.what());
    detail.setProperty("code", first.code());
    detail.setProperty("remedy", first.remedy());
    detail.setProperty("problems", Problems.views(problems));
    return detail;
  }

  /** Answers from a filter, where no controller is reached. */
  public static void write(HttpServletResponse response, HttpStatus status, Problem problem)
      throws IOException {
    response.setStatus(status.value());
    response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
    response.setCharacterEncoding(StandardCharsets.UTF_8);
    response.getWriter().write(JSON.writeValueAsString(detail(status, List.of(problem))));
  }

  public static HttpStatus status(Refusal.Kind kind) {
    return switch (kind) {
      case INVALID -> HttpStatus.BAD_REQUEST;
      case NOT_FOUND -> HttpStatus.NOT_FOUND;
      case CONFLICT, STOPPED -> HttpStatus.CONFLICT;
      case STALE -> HttpStatus.PRECONDITION_FAILED;
      case TOO_LARGE -> HttpStatus.CONTENT_TOO_LARGE;
      case MEDIA_TYPE -> HttpStatus.UNSUPPORTED_MEDIA_TYPE;
      case FORBIDDEN -> HttpStatus.FORBIDDEN;
      case UNKNOWN_CALLER -> HttpStatus.UNAUTHORIZED;
      case TOO_OFTEN -> HttpStatus.TOO_MANY_REQUESTS;
      case UNAVAILABLE -> HttpStatus.SERVICE_UNAVAILABLE;
    };
  }
}
