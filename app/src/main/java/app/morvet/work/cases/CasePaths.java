package app.morvet.work.cases;

import app.morvet.ground.page.Place;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Where cases stand in the application. */
@Configuration(proxyBeanMethods = false)
class CasePaths {
    @Bean
    Place casesPlace() {
        return new Place(2, "Cases", "/cases");
    }
}
