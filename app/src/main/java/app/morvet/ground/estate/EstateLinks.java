package app.morvet.ground.estate;

import app.morvet.core.estate.Links;
import java.util.Collection;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** How the components of the estate hang together, for what core reckons with it. */
@org.springframework.stereotype.Component
public class EstateLinks implements Links {
    private final Estate estate;

    EstateLinks(Estate estate) {
        this.estate = estate;
    }

    @Override
    public Collection<Long> needs(long component) {
        return estate.needsOf(component).stream().map(Estate.Component::id).toList();
    }

    @Override
    public @Nullable Long standsOn(long component) {
        return estate.component(component).standsOn();
    }

    @Override
    public Collection<Long> dependents(long component) {
        return Stream.concat(estate.needing(component).stream(), estate.standingOn(component).stream())
                .map(Estate.Component::id)
                .distinct()
                .toList();
    }
}
