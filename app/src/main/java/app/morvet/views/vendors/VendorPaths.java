package app.morvet.views.vendors;

import static app.morvet.ground.access.PathRights.toSend;

import app.morvet.ground.access.PathRights;
import app.morvet.ground.estate.ComponentPage;
import app.morvet.ground.page.Place;
import app.morvet.sources.vendors.Vendors;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Where vendors stand in the application. */
@Configuration(proxyBeanMethods = false)
class VendorPaths {
    @Bean
    Place vendorsPlace() {
        return new Place(6, "Vendors", "/vendors");
    }

    @Bean
    ComponentPage vendorPage() {
        return new ComponentPage(Vendors.KIND, "/vendors/");
    }

    /** Feeds are connections, which are an admin's; to accept planned work is the work of a shift. */
    @Bean
    PathRights vendorRights() {
        return PathRights.of(
                toSend("SETUP", "/vendors/*/feeds/**", "/vendors/*/agreed"), toSend("WORK", "/vendors/**"));
    }
}
