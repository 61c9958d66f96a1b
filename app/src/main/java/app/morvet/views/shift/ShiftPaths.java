package app.morvet.views.shift;

import app.morvet.ground.access.PathRights;
import app.morvet.ground.page.Place;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Where the shift is. To take over is anybody's who does the work. */
@Configuration(proxyBeanMethods = false)
class ShiftPaths {
    @Bean
    PathRights shiftRights() {
        return PathRights.of(PathRights.toSend("TUNE", "/shift/walls", "/shift/walls/**", "/shift/plan"));
    }

    @Bean
    Place shiftPlace() {
        return new Place(1, "Shift", "/shift");
    }
}
