package app.morvet.work.handoffs;

import static app.morvet.ground.access.PathRights.toSee;

import app.morvet.ground.access.PathRights;
import app.morvet.ground.page.Place;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Where handoffs stand in the application. */
@Configuration(proxyBeanMethods = false)
class HandoffPaths {
    @Bean
    PathRights handedRights() {
        return PathRights.of(toSee("TEAM", "/", "/handed/**"));
    }

    @Bean
    Place handoffsPlace() {
        return new Place(9, "Handoffs", "/handoffs");
    }
}
