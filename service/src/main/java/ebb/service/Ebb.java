package ebb.service;

import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.scheduling.annotation.EnableScheduling;

/** Starts the service. */
@SpringBootApplication
@EnableScheduling
public class Ebb {
  public static void main(String[] arguments) {
    SpringApplication.run(Ebb.class, arguments);
  }
}
