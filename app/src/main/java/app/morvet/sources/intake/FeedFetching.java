package app.morvet.sources.intake;

import app.morvet.ground.base.Errand;
import app.morvet.ground.base.Errands;
import app.morvet.ground.base.Outgoing;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.Pauses;
import java.io.IOException;
import java.net.http.HttpRequest;
import java.time.Clock;
import java.time.Instant;
import java.util.Optional;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * Fetches the pages of feeds that do not send by themselves, each on its cadence. A page that fails is tried again at the
 * next turn; meanwhile the feed says why.
 */
@Component
class FeedFetching implements Errand {
    private static final String ACCEPT = "application/openmetrics-text;version=1.0.0,text/plain;version=0.0.4;q=0.5";

    private final Estate estate;
    private final ReadingsIntake intake;
    private final Outgoing outgoing;
    private final Errands errands;
    private final Pauses pauses;
    private final Clock clock;

    FeedFetching(Estate estate, ReadingsIntake intake, Outgoing outgoing, Errands errands, Pauses pauses, Clock clock) {
        this.pauses = pauses;
        this.estate = estate;
        this.intake = intake;
        this.outgoing = outgoing;
        this.errands = errands;
        this.clock = clock;
    }

    @Override
    public String name() {
        return "fetch-feed";
    }

    @EventListener
    void on(ApplicationReadyEvent ready) {
        startAll();
    }

    @EventListener
    void on(Estate.FeedsChanged changed) {
        startAll();
    }

    private void startAll() {
        for (var feed : estate.feeds())
            if (feed.fetchUrl() != null) errands.unlessWaiting(clock.instant(), name(), Long.toString(feed.id()));
    }

    @Override
    public Optional<Instant> run(String id) {
        long number = Long.parseLong(id);
        var feed = estate.feed(number).orElse(null);
        if (feed == null) return Optional.empty();
        var url = feed.fetchUrl();
        if (url == null) return Optional.empty();
        if (pauses.feed(number)) return Optional.of(clock.instant().plus(feed.cadence()));
        try {
            var answer = outgoing.call(
                    HttpRequest.newBuilder().header("Accept", ACCEPT).GET(), url);
            if (answer.status() == 200) {
                intake.takePage(number, ContentType.of(answer.type()), answer.body());
                estate.fetchWorks(number);
            } else {
                estate.fetchFailed(number, "it answered " + answer.status());
            }
        } catch (IOException | IllegalArgumentException | Refusal failed) {
            estate.fetchFailed(number, String.valueOf(failed.getMessage()));
        } catch (InterruptedException stop) {
            Thread.currentThread().interrupt();
        }
        return Optional.of(clock.instant().plus(feed.cadence()));
    }
}
