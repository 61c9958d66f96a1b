package app.morvet;

import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;
import org.springframework.boot.security.autoconfigure.UserDetailsServiceAutoConfiguration;
import org.springframework.scheduling.annotation.EnableScheduling;

/** Starts the house. */
// People are looked up by Morvet itself; a user that is made up at the start is nobody.
@SpringBootApplication(exclude = UserDetailsServiceAutoConfiguration.class, proxyBeanMethods = false)
@ConfigurationPropertiesScan
@EnableScheduling
public class MorvetApplication {
    public static void main(String[] args) {
        SpringApplication.run(MorvetApplication.class, args);
    }
}
