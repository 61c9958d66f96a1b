package app.morvet.rules.guards;

import static app.morvet.ground.access.PathRights.toSee;
import static app.morvet.ground.access.PathRights.toSend;

import app.morvet.ground.access.PathRights;
import app.morvet.ground.page.Place;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Where guards stand in the application, and who may what there. */
@Configuration(proxyBeanMethods = false)
class GuardPaths {
    @Bean
    Place guardsPlace() {
        return new Place(7, "Guards", "/guards");
    }

    /** What the bench asks, and setting limits, is the analyst's own work; all else of guards is a lead's. */
    @Bean
    PathRights guardRights() {
        return PathRights.of(
                toSend("TUNE", "/guards/0", "/guards/file"),
                toSend("WORK", "/guards/*"),
                toSend("TUNE", "/guards/**"),
                toSee("TUNE", "/guards/new", "/guards/*/copy"));
    }
}
