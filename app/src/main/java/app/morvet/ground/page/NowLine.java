package app.morvet.ground.page;

import app.morvet.ground.base.Remembered;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;

/**
 * The thin line under the head of every page: the time, and only what needs eyes. It is the same for whoever reads it, so all pages that are
 * drawn in the same second have one, unless something that it tells has changed.
 */
@Controller
class NowLine {
    private static final Duration KEPT = Duration.ofSeconds(1);

    /** @param standing what stands beside the time */
    record Line(Instant at, List<NowSource.NowItem> items, List<String> standing) {}

    static final Line NONE = new Line(Instant.EPOCH, List.of(), List.of());

    private final List<NowSource> sources;
    private final Set<String> topics;
    private final Times times;
    private final Remembered<Line> line = new Remembered<>(this::read, this::isOfNow);

    NowLine(List<NowSource> sources, Times times, Live live) {
        this.sources = sources;
        this.times = times;
        this.topics = Stream.concat(Stream.of("now"), sources.stream().flatMap(one -> one.topics().stream()))
                .collect(Collectors.toUnmodifiableSet());
        live.hear(topics, line::forget);
    }

    private Line read() {
        return new Line(
                times.now(),
                sources.stream().flatMap(source -> source.now().stream()).toList(),
                sources.stream()
                        .map(NowSource::standing)
                        .filter(words -> !words.isEmpty())
                        .toList());
    }

    private boolean isOfNow(Line kept) {
        return Duration.between(kept.at(), times.now()).abs().compareTo(KEPT) < 0;
    }

    Line line() {
        return line.get();
    }

    /** The topics on which it is fetched anew. */
    String topics() {
        return topics.stream().sorted().collect(Collectors.joining(" "));
    }

    @GetMapping("/now")
    String now(Model model) {
        show(line(), model);
        return "parts :: nowline";
    }

    static void show(Line line, Model model) {
        model.addAttribute("nowItems", line.items());
        model.addAttribute("nowStanding", line.standing());
    }
}
