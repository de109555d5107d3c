package eleutheria.server;

import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;

/** The application. */
@SpringBootApplication
public class Eleutheria {
  public static void main(String[] args) {
    SpringApplication.run(Eleutheria.class, args);
  }
}
