package app.morvet.core.estate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Set;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** Which part of the estate something stands over. */
class ScopeTest {
    private static final Scope.Facts QUAY = facts("quay-05", "host", "gates", 1, Set.of("quays"), "", null);
    private static final Scope.Facts GATES = facts("gate-control", "service", "gates", 1, Set.of(), "", QUAY);
    private static final Scope.Facts BOARDING = facts("boarding-1", "instance", "boarding", 2, Set.of(), "", GATES);
    private static final Scope.Facts JOB = facts("count-cars", "job", "boarding", 2, Set.of(), "nightly", null);
    private static final Scope.Facts STRAY = facts("stray", "host", "", 0, Set.of(), "", null);
    private static final List<Scope.Facts> ESTATE = List.of(QUAY, GATES, BOARDING, JOB, STRAY);

    private static Scope.Facts facts(
            String key,
            String kind,
            String application,
            int tier,
            Set<String> groups,
            String chain,
            Scope.@Nullable Facts on) {
        return new Scope.Facts(
                key, key, kind, application, tier, application.isEmpty() ? "" : "production", groups, chain, on);
    }

    private static List<String> takenIn(Scope scope) {
        return ESTATE.stream().filter(scope::takes).map(Scope.Facts::key).toList();
    }

    @Test
    void allThatIsSaidMustFit() {
        assertThat(takenIn(Scope.ALL)).hasSize(ESTATE.size());
        assertThat(takenIn(Scope.ALL.ofKind("host"))).containsExactly("quay-05", "stray");
        assertThat(takenIn(Scope.ALL.ofKind("host").ofApplication("gates"))).containsExactly("quay-05");
        assertThat(takenIn(new Scope("", "", 2, "production", "", "", "", false)))
                .containsExactly("boarding-1", "count-cars");
        assertThat(takenIn(Scope.ALL.named("*-0*"))).containsExactly("quay-05");
        assertThat(takenIn(Scope.ALL.inGroup("quays"))).containsExactly("quay-05");
        assertThat(takenIn(Scope.ALL.inGroup("gone"))).isEmpty();
        assertThat(takenIn(Scope.ofChain("nightly"))).containsExactly("count-cars");
        assertThat(takenIn(Scope.ofJob("count-cars"))).containsExactly("count-cars");
    }

    @Test
    void oneIsTakenInWithAllThatStandsOnItHoweverFar() {
        assertThat(takenIn(Scope.ALL.named("quay-05").withAllOnIt()))
                .containsExactly("quay-05", "gate-control", "boarding-1");
        assertThat(takenIn(Scope.ALL.inGroup("quays").withAllOnIt()))
                .containsExactly("quay-05", "gate-control", "boarding-1");
        assertThat(takenIn(Scope.ALL.named("gate-control").withAllOnIt()))
                .containsExactly("gate-control", "boarding-1");
        assertThat(takenIn(Scope.ALL.named("stray").withAllOnIt())).containsExactly("stray");
    }

    @Provide
    Arbitrary<Scope> scopes() {
        return Combinators.combine(
                        Arbitraries.of("", "gates", "boarding"),
                        Arbitraries.of("", "host", "service", "job"),
                        Arbitraries.of(0, 1, 2),
                        Arbitraries.of("", "quay-*", "*", "gate-control"),
                        Arbitraries.of("", "quays"),
                        Arbitraries.of(true, false))
                .as((application, kind, tier, name, group, onIt) ->
                        new Scope(application, kind, tier, "", name, group, "", onIt));
    }

    /** More that is asked for never takes in more, and with all that stands on it never less. */
    @Property
    void whatIsAskedMoreTakesInNoMore(@ForAll("scopes") Scope scope) {
        assertThat(takenIn(scope)).containsAll(takenIn(scope.ofKind(scope.kind().isEmpty() ? "host" : scope.kind())));
        assertThat(takenIn(scope)).containsAll(takenIn(scope.inGroup("quays")));
        assertThat(takenIn(scope.withAllOnIt())).containsAll(takenIn(scope));
        assertThat(takenIn(Scope.ALL)).containsAll(takenIn(scope));
    }

    @Test
    void itSaysInWordsWhatItTakesIn() {
        assertThat(Scope.ALL.words(it -> it)).isEqualTo("each component of the estate");
        assertThat(Scope.ALL.ofKind("host").words(it -> it)).isEqualTo("each host of the estate");
        assertThat(Scope.ALL.named("quay-05").withAllOnIt().words(it -> "Quay 5"))
                .isEqualTo("Quay 5 with all that stands on it");
        assertThat(Scope.ALL.ofKind("host").inGroup("quays").words(it -> it)).isEqualTo("each host in the group quays");
        assertThat(Scope.ofChain("nightly").jobWords("a", it -> it)).isEqualTo("a job of the chain nightly");
        assertThat(Scope.ALL.jobWords("No", it -> it)).isEqualTo("No job");
        assertThat(Scope.ALL.ofApplication("boarding").jobWords("No", it -> "Boarding"))
                .isEqualTo("No job of Boarding");
        assertThat(Scope.ofJob("count-cars").jobWords("No", it -> "Count cars")).isEqualTo("Count cars");
        assertThat(Scope.ALL.named("quay-05").withAllOnIt().jobWords("No", it -> it))
                .isEqualTo("No job of quay-05 with all that stands on it");
    }

    @Test
    void aTierThatThereIsNotIsRefused() {
        assertThatThrownBy(() -> new Scope("", "", 5, "", "", "", "", false))
                .hasMessage("a tier is 1, 2, 3 or 4, was 5");
    }
}
