package ebb.service.operators;

import ebb.core.problem.Problem;
import ebb.service.web.ProblemAnswers;
import ebb.store.Database;
import ebb.store.SecretBox;
import ebb.store.operators.Answered;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Optional;
import java.util.regex.Pattern;
import org.hibernate.exception.ConstraintViolationException;
import org.springframework.boot.web.servlet.FilterRegistrationBean;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;
import org.springframework.web.util.ContentCachingResponseWrapper;

/**
 * Answers a request that comes again under its Idempotency-Key with the answer of the first, and
 * does nothing twice. A request that failed frees its key.
 */
@Component
final class SentTwice extends OncePerRequestFilter {
  private static final String KEY = "Idempotency-Key";

  /** What they answer is shown once, and kept nowhere. */
  private static final Pattern SHOWN_ONCE =
      Pattern.compile("/api/v1/(tokens|operators|session|feeds/[^/]+/token).*");

  private static final long LARGEST_KEPT = 1024 * 1024;

  private static final Problem KEY_REUSED =
      new Problem(
          "idempotency-key-reused",
          "This Idempotency-Key was used for another request.",
          "A key stands for one request, so that nothing is done twice.",
          "Use a new key for each new request.",
          null);

  private static final Problem UNDER_WAY =
      new Problem(
          "request-under-way",
          "The first request with this Idempotency-Key is still being carried out.",
          "It may yet fail, and then free its key.",
          "Send it again in a moment: it will be answered with the first one's answer.",
          null);

  private final Database database;
  private final Answered answered;

  SentTwice(Database database, Answered answered) {
    this.database = database;
    this.answered = answered;
  }

  @Override
  protected boolean shouldNotFilter(HttpServletRequest request) {
    return !"POST".equals(request.getMethod())
        || request.getHeader(KEY) == null
        || SHOWN_ONCE.matcher(request.getRequestURI()).matches();
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest sent, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    var authentication = SecurityContextHolder.getContext().getAuthentication();
    if (authentication == null) {
      chain.doFilter(sent, response);
      return;
    }
    var operator = authentication.getName();
    var key = sent.getHeader(KEY);
    var request = kept(sent);
    var what = SecretBox.hash(target(request) + " " + content(request));
    var before = begin(operator, key, what);
    if (before.isPresent()) {
      answerAgain(response, before.get(), what);
    } else {
      carryOut(request, response, chain, operator, key);
    }
  }

  /** A body of JSON is small, and is kept to be compared; an uploaded file streams by. */
  private static HttpServletRequest kept(HttpServletRequest sent) throws IOException {
    var type = String.valueOf(sent.getContentType());
    var length = sent.getContentLengthLong();
    return type.contains("json") && length >= 0 && length <= LARGEST_KEPT
        ? new KeptBody(sent, sent.getInputStream().readAllBytes())
        : sent;
  }

  private static String target(HttpServletRequest request) {
    return request.getRequestURI() + "?" + request.getQueryString();
  }

  /** What tells two bodies apart: of a file, whose name is in the query, the length. */
  private static String content(HttpServletRequest request) throws IOException {
    return request instanceof KeptBody
        ? new String(request.getInputStream().readAllBytes(), StandardCharsets.UTF_8)
        : Long.toString(request.getContentLengthLong());
  }

  /** Takes the key; the answer of the one who has it otherwise. */
  private Optional<Answered.Answer> begin(String operator, String key, String what) {
    try {
      database.writeAll(session -> answered.begin(session, operator, key, what, Instant.now()));
      return Optional.empty();
    } catch (ConstraintViolationException _) {
      return database.read(session -> answered.get(session, operator, key));
    }
  }

  private void carryOut(
      HttpServletRequest request,
      HttpServletResponse response,
      FilterChain chain,
      String operator,
      String key)
      throws ServletException, IOException {
    var kept = new ContentCachingResponseWrapper(response);
    boolean done = false;
    try {
      chain.doFilter(request, kept);
      done = kept.getStatus() < 300;
    } finally {
      if (done) {
        var body = new String(kept.getContentAsByteArray(), StandardCharsets.UTF_8);
        database.writeAll(
            session ->
                answered.finish(
                    session, operator, key, kept.getStatus(), body, kept.getHeader("Location")));
      } else {
        database.writeAll(session -> answered.drop(session, operator, key));
      }
      kept.copyBodyToResponse();
    }
  }

  private static void answerAgain(HttpServletResponse response, Answered.Answer answer, String what)
      throws IOException {
    if (!answer.requestHash().equals(what)) {
      ProblemAnswers.write(response, HttpStatus.UNPROCESSABLE_CONTENT, KEY_REUSED);
    } else if (answer.status() == null) {
      ProblemAnswers.write(response, HttpStatus.CONFLICT, UNDER_WAY);
    } else {
      response.setStatus(answer.status());
      response.setContentType("application/json");
      if (answer.location() != null) {
        response.setHeader("Location", answer.location());
      }
      response.getOutputStream().write(answer.body().getBytes(StandardCharsets.UTF_8));
    }
  }

  @Configuration
  static class Registration {
    /** It runs inside the security chain, where the operator is known, and nowhere else. */
    @Bean
    FilterRegistrationBean<SentTwice> notByItself(SentTwice filter) {
      var registration = new FilterRegistrationBean<>(filter);
      registration.setEnabled(false);
      return registration;
    }
  }
}
