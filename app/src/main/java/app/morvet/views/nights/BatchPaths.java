package app.morvet.views.nights;

import static app.morvet.ground.access.PathRights.toSee;
import static app.morvet.ground.access.PathRights.toSend;

import app.morvet.ground.access.PathRights;
import app.morvet.ground.estate.ComponentPage;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Place;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Where jobs and nights stand in the application, and who may what there. */
@Configuration(proxyBeanMethods = false)
class BatchPaths {
    @Bean
    Place batchPlace() {
        return new Place(4, "Batch", "/batch");
    }

    @Bean
    ComponentPage jobPage() {
        return new ComponentPage(Estate.JOB, "/batch/jobs/");
    }

    /** Orders to a scheduler are the work of a shift; jobs and guards over runs are a lead's. */
    @Bean
    PathRights batchRights() {
        return PathRights.of(
                toSend("WORK", "/batch/jobs/*/orders"),
                toSend("TUNE", "/batch/**"),
                toSee("TUNE", "/batch/jobs/*/edit", "/batch/guards/*/edit"));
    }
}
