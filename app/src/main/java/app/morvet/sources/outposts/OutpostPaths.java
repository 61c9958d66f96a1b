package app.morvet.sources.outposts;

import static app.morvet.ground.access.PathRights.toSend;

import app.morvet.ground.access.PathRights;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Who may what of outposts: what they are asked is a lead's, themselves and their keys are an admin's. */
@Configuration(proxyBeanMethods = false)
class OutpostPaths {
    @Bean
    PathRights outpostRights() {
        return PathRights.of(
                toSend("TUNE", "/services/outposts/asks", "/services/outposts/asks/**"),
                toSend("WORK", "/services/outposts/*/again"),
                toSend("SETUP", "/services/outposts", "/services/outposts/**"));
    }
}
