package app.morvet.ground.access;

import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.ControllerAdvice;
import org.springframework.web.bind.annotation.ModelAttribute;

/** What the now line needs to show the reader's own clock beside the estate's. */
@ControllerAdvice(annotations = Controller.class)
class OwnClock {
    private final OwnZones zones;

    OwnClock(OwnZones zones) {
        this.zones = zones;
    }

    @ModelAttribute("ownZone")
    @Nullable
    String zone(@AuthenticationPrincipal @Nullable Object who) {
        return who instanceof Person person
                ? zones.of(person.id()).map(Object::toString).orElse(null)
                : null;
    }
}
