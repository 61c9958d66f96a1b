package app.morvet.views.services;

import app.morvet.ground.estate.ComponentPage;
import app.morvet.ground.page.Place;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Where services stand in the application. */
@Configuration
class ServicePaths {
    @Bean
    Place servicesPlace() {
        return new Place(5, "Services", "/services");
    }

    @Bean
    ComponentPage servicePage() {
        return new ComponentPage("service", "/services/");
    }
}
