package app.morvet.work.callouts;

import static app.morvet.ground.access.PathRights.toSend;

import app.morvet.ground.access.PathRights;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Who may what about call-outs: rules are a lead's; to see what they would do is anybody's. */
@Configuration(proxyBeanMethods = false)
class CallOutPaths {
    @Bean
    PathRights callOutRights() {
        return PathRights.of(toSend("WORK", "/callouts/rules/preview"), toSend("TUNE", "/callouts/rules/**"));
    }
}
