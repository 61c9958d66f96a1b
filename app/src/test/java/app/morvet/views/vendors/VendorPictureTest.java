package app.morvet.views.vendors;

import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.ToldAlerts;
import app.morvet.core.vendors.Bulletin;
import app.morvet.core.vendors.Reading;
import app.morvet.core.vendors.VendorState;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import app.morvet.sources.vendors.VendorFeeds;
import app.morvet.sources.vendors.VendorInstance;
import app.morvet.sources.vendors.Vendors;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.support.TransactionTemplate;

/** What stands in the one picture of an instance: all of it on one axis of time. */
class VendorPictureTest extends ToldAlerts {
    private static final Duration WEEK = Duration.ofDays(7);
    private static final Duration DAY = Duration.ofDays(1);

    @Autowired
    private VendorPicture picture;

    @Autowired
    private Vendors vendors;

    @Autowired
    private Connections connections;

    @Autowired
    private TransactionTemplate together;

    private final Instant now = Instant.now();
    private Subject instance;
    private Connection feed;

    @BeforeEach
    void anInstance() {
        instance = component(Vendors.KIND);
        vendors.keep(new VendorInstance(instance.id(), "Ostrevia", 99, "", false, null, 0), null);
        connections.keep(new Connection(
                0,
                VendorFeeds.SORT,
                instance.key(),
                null,
                "feed of " + instance.key(),
                "http://127.0.0.1:" + DESK.port() + "/" + instance.key(),
                "",
                "",
                Map.of(VendorFeeds.COMPONENT, instance.key(), VendorFeeds.EVERY, "86400", "shape", "json"),
                0));
        feed = connections.byKey(VendorFeeds.SORT, instance.key()).orElseThrow();
    }

    private static Bulletin bulletin(
            String key, boolean planned, @Nullable Instant from, @Nullable Instant to, boolean over) {
        return new Bulletin(key, planned, "About " + key, "text", from, to, null, over, Set.of());
    }

    private void said(Instant at, VendorState state, Bulletin... written) {
        together.executeWithoutResult(
                status -> vendors.past(feed, new Reading(Map.of("", state), List.of(written), List.of()), at, DAY));
    }

    private VendorPicture.Line line(String name) {
        return picture.of(instance.id()).lines().stream()
                .filter(one -> one.name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    /** The picture shows nine days: seven back and two ahead. */
    private double x(Duration ago) {
        var drawn = picture.of(instance.id());
        return drawn.now() - drawn.now() * ago.toMillis() / WEEK.toMillis();
    }

    @Test
    void whatTheVendorSaysWritesAndPlansIsOnOneAxis() {
        said(now.minus(DAY.multipliedBy(4)), VendorState.SERVES);
        said(
                now.minus(DAY.multipliedBy(2)),
                VendorState.NOT,
                bulletin("b1", false, now.minus(DAY.multipliedBy(2)), null, false));
        said(now.minus(DAY), VendorState.SERVES, bulletin("b1", false, now.minus(DAY.multipliedBy(2)), null, true));
        said(
                now.minusSeconds(60),
                VendorState.SERVES,
                bulletin("b1", false, now.minus(DAY.multipliedBy(2)), null, true),
                bulletin("b2", true, now.plus(DAY), now.plus(DAY).plusSeconds(7200), false));
        assertThat(line("The vendor says").word()).isEqualTo("serves");
        assertThat(line("The vendor says").bars())
                .filteredOn(bar -> bar.mark().equals("critical"))
                .singleElement()
                .satisfies(bar -> {
                    assertThat(bar.x()).isCloseTo(x(DAY.multipliedBy(2)), org.assertj.core.data.Offset.offset(2.0));
                    assertThat(bar.width()).isCloseTo(60, org.assertj.core.data.Offset.offset(3.0));
                });
        // What is over ends when the vendor said that it is, not when it was seen last.
        assertThat(line("The vendor writes").bars()).singleElement().satisfies(bar -> {
            assertThat(bar.mark()).isEqualTo("over");
            assertThat(bar.x() + bar.width()).isCloseTo(x(DAY), org.assertj.core.data.Offset.offset(3.0));
        });
        assertThat(picture.of(instance.id()).planned()).singleElement().satisfies(bar -> assertThat(bar.x())
                .isGreaterThan(picture.of(instance.id()).now()));
    }

    @Test
    void casesOnWhatNeedsItStandBesideItAndOthersDoNot() {
        said(now.minus(DAY), VendorState.SERVES);
        var needs = component("host");
        var other = component("host");
        estate.needs(needs.key(), instance.key());
        long guard = guard("hot");
        int minute = (int) Duration.between(T, now).toMinutes();
        raised(guard, needs, minute - 60, WARNING, 3);
        raised(guard, other, minute - 60, WARNING, 3);
        assertThat(line("Ours that needs it").word()).isEqualTo("1 open case");
        assertThat(line("Ours that needs it").bars()).singleElement().satisfies(bar -> assertThat(bar.words())
                .contains(needs.key()));
        cleared(guard, needs, minute - 10, 3);
        assertThat(line("Ours that needs it").word()).isEqualTo("no open case");
        assertThat(line("Ours that needs it").bars()).hasSize(1);
    }
}
