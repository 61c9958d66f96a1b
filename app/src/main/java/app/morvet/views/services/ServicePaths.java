package app.morvet.views.services;

import static app.morvet.ground.access.PathRights.toSend;

import app.morvet.ground.access.PathRights;
import app.morvet.ground.estate.ComponentPage;
import app.morvet.ground.page.Place;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Where services stand in the application. */
@Configuration(proxyBeanMethods = false)
class ServicePaths {
    @Bean
    Place servicesPlace() {
        return new Place(5, "Services", "/services");
    }

    @Bean
    ComponentPage servicePage() {
        return new ComponentPage("service", "/services/");
    }

    /** Keys are an admin's; what is watched is a lead's. */
    @Bean
    PathRights serviceRights() {
        return PathRights.of(toSend("SETUP", "/services/heartbeats"), toSend("TUNE", "/services/off/*"));
    }
}
