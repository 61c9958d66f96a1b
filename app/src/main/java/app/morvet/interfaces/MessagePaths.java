package app.morvet.interfaces;

import static app.morvet.access.PathRights.toSee;
import static app.morvet.access.PathRights.toSend;

import app.morvet.access.PathRights;
import app.morvet.estate.ComponentPage;
import app.morvet.estate.Estate;
import app.morvet.page.Place;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Where messages, their rules and masks stand in the application, and who may what there. */
@Configuration
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
