package app.morvet;

import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;
import org.springframework.scheduling.annotation.EnableScheduling;

/** Starts the house. */
@SpringBootApplication
@ConfigurationPropertiesScan
@EnableScheduling
public class MorvetApplication {
    public static void main(String[] args) {
        SpringApplication.run(MorvetApplication.class, args);
    }
}
