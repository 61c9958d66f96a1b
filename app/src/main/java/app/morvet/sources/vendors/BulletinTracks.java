package app.morvet.sources.vendors;

import app.morvet.core.tracks.Axis;
import app.morvet.core.tracks.Track;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.tracks.TimeTracks;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** What vendors write of trouble, over time. */
@Component
@Order(50)
class BulletinTracks implements TimeTracks {
    private static final int MOST = 40;

    private final Vendors vendors;
    private final Clock clock;

    BulletinTracks(Vendors vendors, Clock clock) {
        this.vendors = vendors;
        this.clock = clock;
    }

    @Override
    public List<Track> tracks(Looked at, Axis axis) {
        return at.around().stream()
                .filter(one -> one.kind().equals(Vendors.KIND))
                .map(one -> Track.relief("the vendor of " + one.name() + " writes", spans(one)))
                .toList();
    }

    private List<Track.Span> spans(Estate.Component one) {
        var trouble = vendors.bulletins(one.id(), MOST).stream()
                .filter(it -> !it.said().planned())
                .toList();
        var over = vendors.overSince(trouble.stream().map(StoredBulletin::id).toList());
        var now = clock.instant();
        return trouble.stream()
                .map(it -> new Track.Span(
                        Objects.requireNonNullElse(it.said().from(), it.firstSeen()),
                        end(it, over, now),
                        it.isOpen(now) ? "notice" : "over",
                        it.said().title(),
                        "/vendors/" + one.key()))
                .toList();
    }

    private static @Nullable Instant end(StoredBulletin one, Map<Long, Instant> over, Instant now) {
        if (one.isOpen(now)) return null;
        if (one.said().to() != null) return one.said().to();
        var since = over.get(one.id());
        if (since != null) return since;
        return one.goneAt() == null ? one.lastSeen() : one.goneAt();
    }
}
