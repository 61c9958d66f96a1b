package app.morvet.sources.checks;

import static app.morvet.ground.access.PathRights.toSee;
import static app.morvet.ground.access.PathRights.toSend;

import app.morvet.ground.access.PathRights;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Who may what of checks: what is asked of the outside is a lead's. */
@Configuration(proxyBeanMethods = false)
class CheckPaths {
    @Bean
    PathRights checkRights() {
        return PathRights.of(
                toSend("TUNE", "/services/checks/**", "/services/checks"),
                toSee("TUNE", "/services/checks/new", "/services/checks/*/edit"));
    }
}
