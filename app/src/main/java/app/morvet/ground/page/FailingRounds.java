package app.morvet.ground.page;

import app.morvet.ground.base.Rounds;
import java.time.Duration;
import java.util.List;
import java.util.stream.Stream;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.health.contributor.Health;
import org.springframework.boot.health.contributor.HealthIndicator;
import org.springframework.stereotype.Component;

/** Says on the now line and in health what is not done any more on this node, since its rounds fail. */
@Component("rounds")
class FailingRounds implements NowSource, HealthIndicator {
    /** What fails once and works again a moment later needs nobody's eyes. */
    private static final Duration NOT_SAID = Duration.ofSeconds(10);

    private final List<Rounds> rounds;
    private final Duration notSaid;

    @Autowired
    FailingRounds(List<Rounds> rounds) {
        this(rounds, NOT_SAID);
    }

    FailingRounds(List<Rounds> rounds, Duration notSaid) {
        this.rounds = rounds;
        this.notSaid = notSaid;
    }

    private Stream<Rounds.Failing> failing() {
        return rounds.stream()
                .flatMap(one -> one.failing().stream())
                .filter(one -> one.since().compareTo(notSaid) > 0);
    }

    @Override
    public List<NowItem> now() {
        return failing()
                .map(one -> new NowItem(
                        "critical",
                        one.undone().words() + " for " + minutes(one.since()),
                        one.undone().link()))
                .toList();
    }

    private static String minutes(Duration since) {
        return since.toMinutes() == 0 ? since.toSeconds() + " s" : since.toMinutes() + " min";
    }

    @Override
    public Health health() {
        var health = Health.up();
        failing().forEach(one -> health.down().withDetail(one.undone().words(), one.why()));
        return health.build();
    }
}
