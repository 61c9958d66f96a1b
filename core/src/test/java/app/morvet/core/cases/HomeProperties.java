package app.morvet.core.cases;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.alert.About;
import app.morvet.core.alert.Topic;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.Example;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.jspecify.annotations.Nullable;

/** Which case an alert goes into. */
class HomeProperties {
    private static final Instant T = Instant.parse("2026-11-23T04:00:00Z");

    /** One alert. */
    record Told(int id, About about, Instant raisedAt) {}

    /** Cases as the store keeps them, without the store. */
    private static final class Cases {
        private final List<Home.Known> known = new ArrayList<>();
        private final Map<Long, List<Told>> alerts = new TreeMap<>();

        void raised(Told one) {
            var home = Home.of(one.about(), one.raisedAt(), known, Optional::empty);
            var topic = one.about().topic();
            long into =
                    switch (home) {
                        case Home.Joins(long id) -> id;
                        case Home.Becomes(long id) -> id;
                        case Home.Reopens(long id) -> id;
                        case Home.Explained(long id) -> id;
                        case Home.Opens() -> {
                            known.add(
                                    new Home.Known(known.size() + 1, one.about().cause(), topic, one.raisedAt(), null));
                            yield known.size();
                        }
                    };
            known.replaceAll(it -> it.id() != into ? it : after(it, home, one));
            alerts.computeIfAbsent(into, none -> new ArrayList<>()).add(one);
            Home.gathering(one.about(), known).ifPresent(this::gather);
        }

        private void gather(Home.Gathering gathering) {
            for (long from : gathering.from()) {
                var moving = alerts.getOrDefault(from, List.of()).stream()
                        .filter(it -> Topic.all("failures").equals(it.about().topic()))
                        .toList();
                alerts.getOrDefault(from, new ArrayList<>()).removeAll(moving);
                alerts.computeIfAbsent(gathering.into(), none -> new ArrayList<>())
                        .addAll(moving);
            }
        }

        private static Home.Known after(Home.Known it, Home home, Told one) {
            var topic = one.about().topic();
            if (home instanceof Home.Becomes)
                return new Home.Known(it.id(), it.component(), topic, one.raisedAt(), null);
            boolean sooner = java.util.Objects.equals(it.topic(), topic)
                    && one.raisedAt().isBefore(it.since());
            return sooner ? new Home.Known(it.id(), it.component(), topic, one.raisedAt(), null) : it;
        }

        Set<Set<Integer>> parts() {
            return alerts.values().stream()
                    .filter(some -> !some.isEmpty())
                    .map(some -> some.stream().map(Told::id).collect(Collectors.toSet()))
                    .collect(Collectors.toSet());
        }

        /** What each case is about, by the alerts in it. */
        Map<Set<Integer>, @Nullable String> topics() {
            var found = new HashMap<Set<Integer>, @Nullable String>();
            for (var it : known) {
                var some = alerts.getOrDefault(it.id(), List.of());
                if (!some.isEmpty())
                    found.put(
                            some.stream().map(Told::id).collect(Collectors.toSet()),
                            it.component() + " "
                                    + (it.topic() == null ? "" : it.topic().text()));
            }
            return found;
        }
    }

    @Provide
    Arbitrary<List<Told>> alerts() {
        var component = Arbitraries.longs().between(1, 3);
        var abouts = Arbitraries.oneOf(
                component.map(About::of),
                component.map(on -> About.of(on, Topic.all("failures"))),
                Combinators.combine(component, Arbitraries.integers().between(1, 3))
                        .as((on, family) -> About.of(on, Topic.one("failures", "" + family))),
                Combinators.combine(component, component).as(About::causedBy),
                component.map(on -> About.of(on, Topic.one("tides", "9"))));
        return Combinators.combine(abouts, Arbitraries.integers().between(0, 30))
                .as(Map::entry)
                .list()
                .ofMinSize(1)
                .ofMaxSize(9)
                .map(some -> {
                    var told = new ArrayList<Told>();
                    for (var one : some)
                        told.add(new Told(told.size(), one.getKey(), T.plus(Duration.ofMinutes(one.getValue()))));
                    return told;
                });
    }

    /** Those that judge are threads of their own: which of them speaks first makes no difference. */
    @Property(tries = 500)
    void anyOrderOfTheSameAlertsGivesTheSameCases(@ForAll("alerts") List<Told> alerts, @ForAll Random random) {
        var one = new Cases();
        alerts.forEach(one::raised);
        var shuffled = new ArrayList<>(alerts);
        Collections.shuffle(shuffled, random);
        var other = new Cases();
        shuffled.forEach(other::raised);
        assertThat(other.parts()).isEqualTo(one.parts());
        assertThat(other.topics()).isEqualTo(one.topics());
    }

    private static final Topic FAMILY = Topic.one("failures", "12");
    private static final About ALL = About.of(1, Topic.all("failures"));

    private static Home.Known open(long id, @Nullable Topic topic) {
        return new Home.Known(id, 1, topic, T.plusSeconds(id), null);
    }

    private static Home home(About about, Home.Known... cases) {
        return Home.of(about, T, List.of(cases), Optional::empty);
    }

    @Example
    void whatIsOfOneComponentAndOneTopicIsOneCase() {
        assertThat(home(About.of(1), open(4, null))).isEqualTo(new Home.Joins(4));
        assertThat(home(About.of(1), open(4, FAMILY))).isEqualTo(new Home.Opens());
        assertThat(home(About.of(2), open(4, null))).isEqualTo(new Home.Opens());
        assertThat(home(About.of(1, FAMILY), open(4, FAMILY), open(5, null))).isEqualTo(new Home.Joins(4));
    }

    @Example
    void whatAJobDoesToOthersIsPartOfThatJobs() {
        assertThat(home(About.causedBy(1, 9), open(4, null))).isEqualTo(new Home.Joins(4));
    }

    @Example
    void aRuleOverAllComponentsHasOneCaseWhereverItShows() {
        var everywhere = Topic.everywhere("failures", "rule 7");
        assertThat(home(About.of(2, everywhere), open(4, everywhere))).isEqualTo(new Home.Joins(4));
    }

    @Example
    void whatIsAboutAllFailuresGoesWithTheFirstFamily() {
        var later = open(4, FAMILY);
        var first = new Home.Known(5, 1, Topic.one("failures", "13"), T, null);
        assertThat(home(ALL, later, first)).isEqualTo(new Home.Joins(5));
        assertThat(home(ALL)).isEqualTo(new Home.Opens());
    }

    @Example
    void theFirstFamilyMakesACaseOfAllFailuresItsOwn() {
        assertThat(home(About.of(1, FAMILY), open(4, Topic.all("failures")))).isEqualTo(new Home.Becomes(4));
        // What explains it comes before that, since it says more.
        assertThat(Home.of(About.of(1, FAMILY), T, List.of(open(4, Topic.all("failures"))), () -> Optional.of(8L)))
                .isEqualTo(new Home.Explained(8));
    }

    @Example
    void whatWasSettledLatelyIsOpenedAgainTheLatestFirst() {
        var old = new Home.Known(4, 1, null, T, T.minus(Duration.ofHours(25)));
        var older = new Home.Known(5, 1, null, T, T.minus(Duration.ofHours(3)));
        var latest = new Home.Known(6, 1, null, T, T.minus(Duration.ofHours(1)));
        assertThat(home(About.of(1), old)).isEqualTo(new Home.Opens());
        assertThat(home(About.of(1), older, old, latest)).isEqualTo(new Home.Reopens(6));
        assertThat(home(About.of(1), latest, open(7, null))).isEqualTo(new Home.Joins(7));
        assertThat(home(ALL, latest)).isEqualTo(new Home.Opens());
    }
}
