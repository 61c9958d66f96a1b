package app.morvet.cases;

import app.morvet.page.Place;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Where cases stand in the application. */
@Configuration
class CasePaths {
    @Bean
    Place casesPlace() {
        return new Place(2, "Cases", "/cases");
    }
}
