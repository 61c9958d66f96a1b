package app.morvet.views.windows;

import static app.morvet.ground.access.PathRights.toSend;

import app.morvet.ground.access.PathRights;
import app.morvet.ground.page.Place;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Where windows stand in the application. */
@Configuration(proxyBeanMethods = false)
class WindowPaths {
    @Bean
    Place windowsPlace() {
        return new Place(8, "Windows", "/windows");
    }

    /** Short ones are the work of a shift; what else takes a lead is asked for where windows are kept. */
    @Bean
    PathRights windowRights() {
        return PathRights.of(
                toSend("TUNE", "/windows/keys/**", "/windows/file/**", "/windows/calendars/**"),
                toSend("WORK", "/windows/**"));
    }
}
