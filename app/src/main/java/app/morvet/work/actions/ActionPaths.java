package app.morvet.work.actions;

import static app.morvet.ground.access.PathRights.toSee;

import app.morvet.ground.access.PathRights;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** What a guard does by itself is a lead's to say. */
@Configuration(proxyBeanMethods = false)
class ActionPaths {
    @Bean
    PathRights actionRights() {
        return PathRights.of(toSee("TUNE", "/guards/*/action", "/guards/*/action/**"));
    }
}
