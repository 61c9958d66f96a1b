package app.morvet.work.handoffs;

import app.morvet.ground.page.Place;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Where handoffs stand in the application. */
@Configuration
class HandoffPaths {
    @Bean
    Place handoffsPlace() {
        return new Place(9, "Handoffs", "/handoffs");
    }
}
