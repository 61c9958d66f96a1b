package app.morvet.views.upkeep;

import static app.morvet.ground.access.PathRights.toSend;

import app.morvet.ground.access.PathRights;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Who may change what of the estate: feeds are connections, and an admin's; all else is a lead's. */
@Configuration(proxyBeanMethods = false)
class EstatePaths {
    @Bean
    PathRights estateRights() {
        return PathRights.of(
                toSend("SETUP", "/estate/feeds/**"),
                toSend("WORK", "/estate/teams/*/duty/**"),
                toSend("TUNE", "/estate/**"));
    }
}
