package app.morvet.ground.tracks;

import app.morvet.core.tracks.Axis;
import app.morvet.core.tracks.PictureOfTime;
import app.morvet.core.tracks.Track;
import app.morvet.ground.page.Times;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.web.server.ResponseStatusException;

/** Pictures of time as pages draw them: what all features know of some components, on one axis that can be moved. */
@Component
public class TimePictures {
    private static final int MOST_ROWS = 300;
    private static final Map<String, Duration> LENGTHS = new LinkedHashMap<>();

    static {
        LENGTHS.put("1 h", Duration.ofHours(1));
        LENGTHS.put("6 h", Duration.ofHours(6));
        LENGTHS.put("1 day", Duration.ofDays(1));
        LENGTHS.put("1 week", Duration.ofDays(7));
        LENGTHS.put("4 weeks", Duration.ofDays(28));
        LENGTHS.put("90 days", Duration.ofDays(90));
        LENGTHS.put("1 year", Duration.ofDays(365));
    }

    /** @param css what it looks like; y and height are in the units of a track that is 22 high */
    public record Piece(
            double x, double width, double y, double height, String css, String words, String label, String link) {}

    public record Lane(String name, int indent, String sort, List<Piece> pieces) {}

    /** A line of the table that says the same. */
    public record Row(String at, String track, String words, String link) {}

    /**
     * @param src   where it is to be had again: of one that was moved with its ends, of any other without, so that it goes on with the time
     * @param path  where it is to be had with other ends
     * @param page  the page that it stands on, of which it is to be had with other ends too
     * @param from  milliseconds since 1970
     * @param zone  in which times are shown
     * @param more  how many rows of the table are left out
     */
    public record Shown(
            String src,
            String path,
            String page,
            long from,
            long to,
            String zone,
            String span,
            boolean moved,
            List<Axis.Tick> ticks,
            @Nullable Double now,
            List<Piece> hatched,
            List<Lane> lanes,
            List<Row> rows,
            int more,
            String earlier,
            String later,
            String closer,
            String wider,
            List<Length> lengths) {}

    /** So much up to where the axis ends now. */
    public record Length(String words, String address) {}

    private final List<TimeTracks> features;
    private final Times times;

    TimePictures(List<TimeTracks> features, Times times) {
        this.features = features;
        this.times = times;
    }

    /**
     * The ends that somebody asked for.
     *
     * @param from two instants (RFC 3339); both empty for none
     * @throws ResponseStatusException 400 where they are none
     */
    public static Optional<Axis> asked(String from, String to) {
        if (from.isEmpty() && to.isEmpty()) return Optional.empty();
        try {
            var axis = new Axis(Instant.parse(from), Instant.parse(to));
            return Optional.of(
                    axis.length().compareTo(Duration.ofSeconds(10)) < 0
                                    || axis.length().toDays() > 400
                            ? axis.longer(1)
                            : axis);
        } catch (DateTimeParseException wrong) {
            throw new ResponseStatusException(
                    HttpStatus.BAD_REQUEST, "from and to are instants such as 2027-03-18T04:38:00Z.");
        } catch (IllegalArgumentException wrong) {
            throw new ResponseStatusException(
                    HttpStatus.BAD_REQUEST, "from lies before to: " + wrong.getMessage() + ".");
        }
    }

    /**
     * @param path  under which it is to be had: its page and {@code /time}
     * @param moved whether somebody asked for this axis
     * @param first tracks that stand on top
     * @param last  tracks that stand at the bottom
     */
    public Shown of(String path, TimeTracks.Looked at, Axis axis, boolean moved, List<Track> first, List<Track> last) {
        var tracks = Stream.of(
                        first.stream(), features.stream().flatMap(one -> one.tracks(at, axis).stream()), last.stream())
                .flatMap(it -> it)
                .toList();
        var hatched =
                features.stream().flatMap(one -> one.hatched(at, axis).stream()).toList();
        var picture = PictureOfTime.of(axis, tracks, hatched, times.now(), times.zone());
        var rows = rows(picture);
        var page = path.replaceFirst("/time(?=\\?|$)", "");
        return new Shown(
                moved ? to(path, axis) : path,
                path,
                page,
                axis.from().toEpochMilli(),
                axis.to().toEpochMilli(),
                times.zoneName(),
                times.span(axis.from(), axis.to()),
                moved,
                picture.ticks(),
                picture.now(),
                picture.hatched().stream()
                        .map(one -> piece(one, 0, 22, "hatched"))
                        .toList(),
                picture.lanes().stream().map(this::lane).toList(),
                rows.stream().limit(MOST_ROWS).toList(),
                Math.max(0, rows.size() - MOST_ROWS),
                to(page, axis.earlier(0.5)),
                to(page, axis.earlier(-0.5)),
                to(page, axis.longer(0.5)),
                to(page, axis.longer(2)),
                lengths(page, times.now()));
    }

    private static List<Length> lengths(String page, Instant to) {
        return LENGTHS.entrySet().stream()
                .map(one -> new Length(one.getKey(), to(page, new Axis(to.minus(one.getValue()), to))))
                .toList();
    }

    private static String to(String path, Axis axis) {
        return path + (path.contains("?") ? "&from=" : "?from=")
                + URLEncoder.encode(axis.from().toString(), StandardCharsets.UTF_8) + "&to="
                + URLEncoder.encode(axis.to().toString(), StandardCharsets.UTF_8);
    }

    private Lane lane(PictureOfTime.Lane lane) {
        return new Lane(
                lane.name(),
                lane.indent(),
                lane.sort().name().toLowerCase(Locale.ROOT),
                lane.pieces().stream()
                        .map(one -> switch (lane.sort()) {
                            case RELIEF -> relief(one);
                            case MARKS -> piece(one, 4, 14, one.mark());
                            case COLUMNS -> piece(one, 21 - 0.19 * one.height(), 0.19 * one.height(), one.mark());
                        })
                        .toList());
    }

    /** The worse the higher. */
    private Piece relief(PictureOfTime.Piece one) {
        return switch (one.mark()) {
            case "critical" -> piece(one, 3, 18, "critical");
            case "warning" -> piece(one, 9, 12, "warning");
            case "notice" -> piece(one, 15, 6, "notice");
            case "over" -> piece(one, 12, 9, "over");
            default -> piece(one, 19, 2, one.mark());
        };
    }

    private Piece piece(PictureOfTime.Piece one, double y, double height, String css) {
        var words = (one.count() > 1 && one.width() == 0 ? one.count() + ": " : "") + one.words() + ", " + when(one);
        // As wide as the text is likely to be, on a track of 640 points.
        boolean fits = height >= 12 && one.width() * 6.4 > one.words().length() * 6.6 + 8;
        return new Piece(one.x(), one.width(), y, height, css, words, fits ? one.words() : "", one.link());
    }

    private String when(PictureOfTime.Piece one) {
        var to = one.to();
        if (to == null) return "since " + times.of(one.from());
        return to.equals(one.from()) ? times.of(one.from()) : times.span(one.from(), to);
    }

    private List<Row> rows(PictureOfTime picture) {
        record Told(PictureOfTime.Piece piece, String track) {}
        return Stream.concat(
                        picture.hatched().stream().map(one -> new Told(one, "window")),
                        picture.lanes().stream()
                                .flatMap(lane -> lane.pieces().stream().map(one -> new Told(one, lane.name()))))
                .filter(one -> !one.piece().mark().equals("steady")
                        && !one.piece().mark().equals("neutral"))
                .sorted(Comparator.comparing(one -> one.piece().from()))
                .map(one -> new Row(
                        when(one.piece()),
                        one.track(),
                        one.piece().words(),
                        one.piece().link()))
                .toList();
    }
}
