package app.morvet.ground.page;

import app.morvet.ground.base.OwnFigure;
import app.morvet.ground.base.Rounds;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.health.contributor.Health;
import org.springframework.boot.health.contributor.HealthIndicator;
import org.springframework.stereotype.Component;

/** Says on the now line and in health what is not done any more on this node, since its rounds fail. */
@Component("rounds")
class FailingRounds implements NowSource, HealthIndicator, OwnFigure {
    /** What fails once and works again a moment later needs nobody's eyes. */
    private static final Duration NOT_SAID = Duration.ofSeconds(10);

    /** A storm is worked off in its time; what waits longer than this is missed. */
    private static final Duration BEHIND = Duration.ofSeconds(30);

    private final List<Rounds> rounds;
    private final Duration notSaid;
    private final Duration behind;

    @Autowired
    FailingRounds(List<Rounds> rounds) {
        this(rounds, NOT_SAID, BEHIND);
    }

    FailingRounds(List<Rounds> rounds, Duration notSaid, Duration behind) {
        this.rounds = rounds;
        this.behind = behind;
        this.notSaid = notSaid;
    }

    private Stream<Rounds.Failing> failing() {
        return rounds.stream()
                .flatMap(one -> one.failing().stream())
                .filter(one -> one.since().compareTo(notSaid) > 0);
    }

    /** Those that fail are not behind, but away. */
    private Stream<Rounds.Behind> behind() {
        return rounds.stream()
                .filter(one -> one.failing().isEmpty())
                .flatMap(one -> one.behind().stream())
                .filter(one -> one.by().compareTo(behind) > 0);
    }

    @Override
    public List<NowItem> now() {
        var failing = failing()
                .map(one -> new NowItem(
                        "critical",
                        one.undone().words() + " for " + minutes(one.since()),
                        one.undone().link()));
        var late = behind().map(one -> new NowItem(
                "warning",
                one.undone().late() + ", " + minutes(one.by()) + " behind",
                one.undone().link()));
        return Stream.concat(failing, late).toList();
    }

    /** Of all rounds the one that is farthest behind, or away for longest. */
    @Override
    public List<Figure> figures() {
        var longest = rounds.stream()
                .flatMap(one -> Stream.concat(
                        one.failing().map(Rounds.Failing::since).stream(),
                        one.behind().map(Rounds.Behind::by).stream()))
                .max(Duration::compareTo)
                .orElse(Duration.ZERO);
        return List.of(new Figure(
                "morvet_rounds_behind",
                "seconds",
                "By how much what Morvet does in rounds is behind.",
                Map.of(),
                true,
                longest.toMillis() / 1000.0));
    }

    private static String minutes(Duration since) {
        return since.toMinutes() == 0 ? since.toSeconds() + " s" : since.toMinutes() + " min";
    }

    @Override
    public Health health() {
        var health = Health.up();
        failing().forEach(one -> health.down().withDetail(one.undone().words(), one.why()));
        // Who is late does more by going on than by being started anew.
        behind().forEach(one -> health.withDetail(one.undone().late(), minutes(one.by()) + " behind"));
        return health.build();
    }
}
