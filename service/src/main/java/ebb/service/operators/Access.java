package ebb.service.operators;

import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Open;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import org.springframework.context.annotation.Configuration;
import org.springframework.web.method.HandlerMethod;
import org.springframework.web.servlet.HandlerInterceptor;
import org.springframework.web.servlet.config.annotation.InterceptorRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/** Looks, before any endpoint of ours is reached, whether the caller may. */
@Configuration
class Access implements WebMvcConfigurer, HandlerInterceptor {
  private static final String OURS = "ebb.";

  @Override
  public void addInterceptors(InterceptorRegistry registry) {
    registry.addInterceptor(this);
  }

  @Override
  public boolean preHandle(
      HttpServletRequest request, HttpServletResponse response, Object handler) {
    if (handler instanceof HandlerMethod method
        && method.getBeanType().getName().startsWith(OURS)
        && !isOpen(method)) {
      var allowed = method.getMethodAnnotation(Allowed.class);
      if (allowed == null) {
        throw forgotten(method);
      }
      Callers.of(request.getUserPrincipal()).require(allowed.value());
    }
    return true;
  }

  private static boolean isOpen(HandlerMethod method) {
    return method.hasMethodAnnotation(Open.class)
        || method.getBeanType().isAnnotationPresent(Open.class);
  }

  private static Refusal forgotten(HandlerMethod method) {
    return new Refusal(
        Refusal.Kind.FORBIDDEN,
        new Problem(
            "not-allowed",
            "Nobody may use this endpoint.",
            "%s does not say who may.".formatted(method.getShortLogMessage()),
            "Tell whoever makes Ebb.",
            null));
  }
}
