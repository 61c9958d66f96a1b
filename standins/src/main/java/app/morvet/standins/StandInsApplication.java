package app.morvet.standins;

import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;
import org.springframework.context.annotation.Bean;

/** Starts the stand-ins, a process of its own. */
@SpringBootApplication
@ConfigurationPropertiesScan
public class StandInsApplication {
    public static void main(String[] args) {
        SpringApplication.run(StandInsApplication.class, args);
    }

    @Bean
    java.time.Clock clock(StandInSettings settings) {
        return java.time.Clock.offset(java.time.Clock.systemUTC(), settings.clockOffset());
    }
}
