package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import app.morvet.core.readings.Micros;
import app.morvet.ground.base.Rounds;
import app.morvet.ground.nodes.Leases;
import app.morvet.ground.nodes.Notices;
import app.morvet.ground.nodes.SomeLeases;
import app.morvet.sources.messages.FailuresRecorded;
import app.morvet.sources.messages.FailuresRecorded.Failure;
import app.morvet.sources.readings.ReadingsRecorded;
import app.morvet.sources.readings.SeriesBook;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.UUID;
import java.util.concurrent.CountDownLatch;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.transaction.support.TransactionTemplate;

/** The queue by which guards on any node hear of what was taken in: nothing is missed, and nothing comes twice. */
class ArrivalsTest extends MorvetTest {
    /** Series that nobody has, so that what others take in meanwhile can be told from it. */
    private static final long SERIES = 1_000_000_000_000L;

    @Autowired
    private Arrivals arrivals;

    @Autowired
    private Notices notices;

    @Autowired
    private Leases leases;

    @Autowired
    private SeriesBook book;

    @Autowired
    private Map<String, Rounds> rounds;

    @Autowired
    private ApplicationEventPublisher events;

    @Autowired
    private TransactionTemplate transaction;

    private void store(long... series) {
        var times = new long[series.length];
        var values = new double[series.length];
        for (int i = 0; i < series.length; i++) {
            times[i] = series[i] - SERIES;
            values[i] = i + 0.5;
        }
        events.publishEvent(new ReadingsRecorded(series, times, values));
    }

    private static List<Long> heard(Arrivals.Some some) {
        return told(some).stream().filter(one -> one >= SERIES).toList();
    }

    @Test
    void eachReadingComesOnceAsItWasStored() {
        var place = arrivals.now();
        transaction.executeWithoutResult(status -> store(SERIES + 1, SERIES + 2));
        transaction.executeWithoutResult(status -> store(SERIES + 3));
        var some = Objects.requireNonNull(arrivals.since(place, Slice.ALL));
        assertThat(heard(some)).containsExactly(SERIES + 1, SERIES + 2, SERIES + 3);
        var first = some.all().stream()
                .filter(one -> !one.failures() && one.of()[0] == SERIES + 1)
                .findFirst()
                .orElseThrow();
        assertThat(first.at()).containsExactly(1, 2);
        assertThat(first.values()).containsExactly(0.5, 1.5);
        assertThat(heard(arrivals.since(some.upTo(), Slice.ALL))).isEmpty();
    }

    /** Who begins later may be done sooner. */
    @Test
    void whatIsCommittedLateIsHeardOfThen() throws Exception {
        var place = arrivals.now();
        var stored = new CountDownLatch(1);
        var read = new CountDownLatch(1);
        var slow = Thread.ofVirtual()
                .start(() -> transaction.executeWithoutResult(status -> {
                    store(SERIES + 4);
                    stored.countDown();
                    await(read);
                }));
        await(stored);
        transaction.executeWithoutResult(status -> store(SERIES + 5));
        var before = Objects.requireNonNull(arrivals.since(place, Slice.ALL));
        assertThat(heard(before)).containsExactly(SERIES + 5);
        read.countDown();
        slow.join();
        var after = Objects.requireNonNull(arrivals.since(before.upTo(), Slice.ALL));
        assertThat(heard(after)).containsExactly(SERIES + 4);
    }

    private static void await(CountDownLatch latch) {
        try {
            latch.await();
        } catch (InterruptedException stop) {
            throw new IllegalStateException(stop);
        }
    }

    @Test
    void whatIsRolledBackIsNotHeardOf() {
        var place = arrivals.now();
        transaction.executeWithoutResult(status -> {
            store(SERIES + 6);
            status.setRollbackOnly();
        });
        assertThat(heard(arrivals.since(place, Slice.ALL))).isEmpty();
    }

    @Test
    void failedMessagesComeWithTheirComponentAndTheTransactionThatStoredThem() {
        var place = arrivals.now();
        var at = Instant.parse("2027-03-18T03:20:00.000250Z");
        transaction.executeWithoutResult(
                status -> events.publishEvent(new FailuresRecorded(List.of(new Failure(-7, at), new Failure(-8, at)))));
        var some = Objects.requireNonNull(arrivals.since(place, Slice.ALL)).all().stream()
                .filter(one -> one.failures() && one.of()[0] == -7)
                .toList();
        assertThat(some).singleElement().satisfies(one -> {
            assertThat(one.of()).containsExactly(-7, -8);
            assertThat(one.at()).containsOnly(Micros.of(at));
            assertThat(place.seen().saw(one.transaction())).isFalse();
        });
    }

    /** What another node put down in slices, and what one node alone put down for all. */
    @Test
    void whatFallsToOtherNodesIsNotRead() {
        var place = arrivals.now();
        transaction.executeWithoutResult(status -> {
            store(SERIES + 7);
            jdbc.sql("update arrival set slices = 4 where tx = pg_current_xact_id()")
                    .update();
        });
        transaction.executeWithoutResult(status -> store(SERIES + 8));
        assertThat(heard(arrivals.since(place, 2))).containsExactly(SERIES + 8);
        assertThat(heard(arrivals.since(place, 6))).containsExactly(SERIES + 7, SERIES + 8);
        assertThat(heard(arrivals.since(place, 0)))
                .as("of a node that watches nothing")
                .isEmpty();
    }

    /** Of a series that the node does not know it cannot say to whom it falls. */
    @Test
    void oneOfSeveralNodesPutsDownToWhomWhatItTakesInFalls() throws Exception {
        setUpOnce();
        var host = "sliced-" + UUID.randomUUID().toString().substring(0, 8);
        tell("heat{component=\"%s\",kind=\"host\"} 5\n".formatted(host));
        long component = estate.byKey(host).orElseThrow().id();
        long series = book.find(component, "heat", Map.of()).orElseThrow().id();
        var several = new Arrivals(jdbc, notices, SomeLeases.among(2, jdbc), book);
        var woken = new ArrayList<Long>();
        several.hear(woken::add, one -> one == component ? 4 : 1);
        var place = arrivals.now();
        for (long told : new long[] {series, SERIES + 9})
            transaction.executeWithoutResult(status -> several.on(
                    new ReadingsRecorded(new long[] {told}, new long[] {Micros.of(Instant.now())}, new double[] {5})));
        assertThat(woken).as("who wants none of it need not look").containsExactly(4L, Slice.ALL);
        assertThat(told(arrivals.since(place, 4))).contains(series, SERIES + 9);
        assertThat(told(arrivals.since(place, 3))).contains(SERIES + 9).doesNotContain(series);
    }

    @Test
    void aNoticeSaysWhichSlicesItIsAboutAndOneThatWasLostMayHaveBeenAboutAny() {
        assertThat(Arrivals.bits(Long.toHexString(5))).isEqualTo(5);
        assertThat(Arrivals.bits(Long.toHexString(Slice.ALL))).isEqualTo(Slice.ALL);
        assertThat(Arrivals.bits("")).isEqualTo(Slice.ALL);
    }

    private static List<Long> told(Arrivals.Some some) {
        return Objects.requireNonNull(some).all().stream()
                .filter(one -> !one.failures())
                .flatMapToLong(one -> Arrays.stream(one.of()))
                .boxed()
                .toList();
    }

    /** It may have stood still for longer than the queue is kept. */
    @Test
    void whoIsFarBehindMustReadTheStore() {
        var place = arrivals.now();
        var longAgo = new Arrivals.Place(place.seen(), place.text(), place.nanos() - 61_000_000_000L);
        assertThat(arrivals.since(longAgo, Slice.ALL)).isNull();
    }

    /** Of another node that died before it told; it comes from its queue alone. */
    @Test
    void whatNobodyToldOfIsJudgedAMomentLater() throws Exception {
        setUpOnce();
        var host = "untold-" + UUID.randomUUID().toString().substring(0, 8);
        tell("heat{component=\"%s\",kind=\"host\"} 5\n".formatted(host));
        long guard = guards.set(
                "Untold of " + host,
                true,
                Watch.of("heat").named(host),
                new LimitGuard(
                        new Window.Sliding(Duration.ofMinutes(5)),
                        Amount.of(Amount.Fold.LAST),
                        Limits.above(40, 90),
                        Terms.clearing(1, Duration.ZERO)),
                "");
        var states = jdbc.sql("select count(*) from guard_state where guard_id = :id")
                .param("id", guard);
        eventually(() -> assertThat(states.query(Long.class).single()).isEqualTo(1));
        long series = book.find(estate.byKey(host).orElseThrow().id(), "heat", Map.of())
                .orElseThrow()
                .id();
        var others = Objects.requireNonNull(rounds.get("ownFigures"));
        others.stop();
        try {
            var dead = new Arrivals(jdbc, notices, leases, book);
            transaction.executeWithoutResult(status -> dead.on(new ReadingsRecorded(
                    new long[] {series}, new long[] {Micros.of(Instant.now())}, new double[] {95})));
            var levels = jdbc.sql("select level from alert where origin_kind = 'guard' and origin_id = :id")
                    .param("id", guard);
            eventually(() -> assertThat(levels.query(String.class).list()).containsExactly("CRITICAL"));
        } finally {
            others.start();
        }
    }
}
