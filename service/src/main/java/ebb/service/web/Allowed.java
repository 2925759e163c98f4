package ebb.service.web;

import ebb.core.operator.Act;
import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;

/** What an endpoint lets one do. An endpoint without it is refused to everybody. */
@Retention(RetentionPolicy.RUNTIME)
@Target(ElementType.METHOD)
public @interface Allowed {
  Act value();
}
