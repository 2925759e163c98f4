package ebb.bench.bare;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import javax.sql.DataSource;
import org.hibernate.SessionFactory;
import org.hibernate.cfg.Configuration;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.context.annotation.Bean;

/** Web, security, database with Hibernate, Flyway, health and figures; and no more. */
@SpringBootApplication
public class Bare {
  /** Hibernate does not start for nothing. */
  @Entity
  static class Nothing {
    @Id Long id;
  }

  @Bean
  SessionFactory sessions(DataSource dataSource) {
    var configuration = new Configuration();
    configuration.getProperties().put("hibernate.connection.datasource", dataSource);
    configuration.addAnnotatedClass(Nothing.class);
    return configuration.buildSessionFactory();
  }

  public static void main(String[] arguments) {
    SpringApplication.run(Bare.class, arguments);
  }
}
