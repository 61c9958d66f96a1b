package app.morvet.views.interfaces;

import static app.morvet.ground.access.PathRights.toSee;
import static app.morvet.ground.access.PathRights.toSend;

import app.morvet.ground.access.PathRights;
import app.morvet.ground.estate.ComponentPage;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Place;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Where messages, their rules and masks stand in the application, and who may what there. */
@Configuration(proxyBeanMethods = false)
class MessagePaths {
    @Bean
    Place messagesPlace() {
        return new Place(3, "Messages", "/messages");
    }

    @Bean
    ComponentPage interfacePage() {
        return new ComponentPage(Estate.INTERFACE, "/messages/interfaces/");
    }

    /** Dealing with messages is the work of a shift; rules, masks and what an interface carries to whom are a lead's. */
    @Bean
    PathRights messageRights() {
        return PathRights.of(
                toSend(
                        "TUNE",
                        "/messages/rules/**",
                        "/messages/rules",
                        "/messages/masks/**",
                        "/messages/interfaces/*/ends"),
                toSee("TUNE", "/messages/rules/new", "/messages/rules/*/edit"),
                toSend("UNCOVER", "/messages/*/uncovered", "/messages/*/uncovered/**"));
    }
}
