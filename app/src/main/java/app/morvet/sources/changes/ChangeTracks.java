package app.morvet.sources.changes;

import app.morvet.core.tracks.Axis;
import app.morvet.core.tracks.Track;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.tracks.TimeTracks;
import app.morvet.sources.messages.Masks;
import java.util.List;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** What was observed to differ, on what is looked at and on what that stands on and needs. */
@Component
@Order(40)
class ChangeTracks implements TimeTracks {
    private static final int MOST = 200;

    private final Changes changes;
    private final Masks masks;
    private final Estate estate;

    ChangeTracks(Changes changes, Masks masks, Estate estate) {
        this.changes = changes;
        this.masks = masks;
        this.estate = estate;
    }

    @Override
    public List<Track> tracks(Looked at, Axis axis) {
        var masking = masks.anywhere();
        var around = at.around().stream().map(Estate.Component::id).toList();
        return List.of(Track.marks(
                "changes",
                changes.of(around, axis.from(), axis.to(), MOST).stream()
                        .map(one -> {
                            var on = estate.component(one.component());
                            var words = on.name() + ": "
                                    + masking.text(one.change().words()).text();
                            return new Track.Span(
                                    one.change().at(),
                                    one.change().at(),
                                    "change",
                                    words,
                                    "/estate/components/" + on.key());
                        })
                        .toList()));
    }
}
