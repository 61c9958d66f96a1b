package app.morvet.core.cases;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.alert.Severity;
import app.morvet.core.alert.Trouble;
import app.morvet.core.estate.Links;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What explains what, in a small estate: a gate on an instance on a host, a relay that needs the gate, a manifest that needs the
 * relay, and what needs that. */
class CausesTest {
    private static final long HOST = 1;
    private static final long INSTANCE = 2;
    private static final long GATE = 3;
    private static final long RELAY = 4;
    private static final long MANIFEST = 5;
    private static final long OTHER_HOST = 6;
    private static final long FAR = 7;

    private static final Links ESTATE = new Links() {
        @Override
        public Collection<Long> needs(long component) {
            return Map.of(RELAY, List.of(GATE), MANIFEST, List.of(RELAY), FAR, List.of(MANIFEST))
                    .getOrDefault(component, List.of());
        }

        @Override
        public Collection<Long> dependents(long component) {
            throw new UnsupportedOperationException("a cause lies below");
        }

        @Override
        public @Nullable Long standsOn(long component) {
            return Map.of(INSTANCE, HOST, GATE, INSTANCE, RELAY, OTHER_HOST).get(component);
        }
    };

    private static Causes.Present on(long component, String kind, Trouble trouble, Severity level) {
        return new Causes.Present(component, component, kind, trouble, level);
    }

    private static boolean explained(Trouble trouble, String kind, long component, Causes.Present... present) {
        return Causes.of(trouble, kind, Causes.needed(component, ESTATE), List.of(present), Set.of())
                .isPresent();
    }

    @ParameterizedTest
    @CsvSource({
        // trouble of the host, how bad, explains that the gate on it is stopped, that the relay that needs the gate
        // fails messages
        "STATE,   CRITICAL, true,  true",
        "STATE,   WARNING,  true,  true",
        "STATE,   NOTICE,   false, false",
        "SILENT,  CRITICAL, true,  false",
        "LIMIT,   CRITICAL, false, false",
        "UNUSUAL, CRITICAL, false, false",
        "FAILING, CRITICAL, false, false",
        "RUN,     CRITICAL, false, false",
        "CHANGED, CRITICAL, false, false",
        "AHEAD,   CRITICAL, false, false",
    })
    void onlyWhatStopsOthersExplainsThem(Trouble of, Severity level, boolean onIt, boolean needingIt) {
        var host = on(HOST, "host", of, level);
        assertThat(explained(Trouble.STATE, "service", GATE, host)).isEqualTo(onIt);
        assertThat(explained(Trouble.FAILING, "interface", RELAY, host)).isEqualTo(needingIt);
    }

    @ParameterizedTest
    @CsvSource({
        "STATE, service, true",
        "SILENT, service, true",
        "FAILING, interface, true",
        "RUN, job, true",
        "LIMIT, endpoint, true",
        "UNUSUAL, queue, true",
        "AHEAD, host, false",
        "CHANGED, service, false",
        "LIMIT, certificate, false",
        "LIMIT, licence, false",
    })
    void whatIsForetoldOrRunsOutByItsDateIsNobodysDoing(Trouble trouble, String kind, boolean explained) {
        assertThat(explained(trouble, kind, GATE, on(HOST, "host", Trouble.STATE, Severity.CRITICAL)))
                .isEqualTo(explained);
    }

    @Test
    void ofASilentMachineOnlyWhatStandsOnItIsNotHeardEither() {
        assertThat(explained(Trouble.SILENT, "service", GATE, on(HOST, "host", Trouble.SILENT, Severity.WARNING)))
                .isTrue();
        assertThat(explained(
                        Trouble.SILENT, "service", GATE, on(INSTANCE, "service", Trouble.SILENT, Severity.WARNING)))
                .as("what is silent is no machine")
                .isFalse();
    }

    @Test
    void whatHasNothingToDoWithItExplainsNothing() {
        assertThat(explained(Trouble.STATE, "service", GATE, on(OTHER_HOST, "host", Trouble.STATE, Severity.CRITICAL)))
                .isFalse();
        assertThat(explained(Trouble.STATE, "host", HOST, on(GATE, "service", Trouble.STATE, Severity.CRITICAL)))
                .as("what stands on it is no reason")
                .isFalse();
    }

    @Test
    void theNearestExplainsAndOfTheEquallyNearTheFirstHeard() {
        var gate = on(GATE, "service", Trouble.STATE, Severity.CRITICAL);
        var host = on(HOST, "host", Trouble.STATE, Severity.CRITICAL);
        var other = on(OTHER_HOST, "host", Trouble.STATE, Severity.CRITICAL);
        var needed = Causes.needed(RELAY, ESTATE);
        assertThat(Causes.of(Trouble.FAILING, "interface", needed, List.of(host, gate), Set.of()))
                .contains(gate);
        assertThat(Causes.of(Trouble.FAILING, "interface", needed, List.of(other, gate), Set.of()))
                .contains(other);
        assertThat(Causes.of(Trouble.FAILING, "interface", needed, List.of(gate, other), Set.of()))
                .contains(gate);
    }

    @Test
    void aKindThatARuleNamesExplainsWhateverIsWrongWithItButWhatIsOnlyForetold() {
        var needed = Causes.needed(RELAY, ESTATE);
        var over = on(GATE, "service", Trouble.LIMIT, Severity.NOTICE);
        var ahead = on(GATE, "service", Trouble.AHEAD, Severity.CRITICAL);
        assertThat(Causes.of(Trouble.FAILING, "interface", needed, List.of(ahead, over), Set.of("service")))
                .contains(over);
        assertThat(Causes.of(Trouble.FAILING, "interface", needed, List.of(ahead, over), Set.of("host")))
                .isEmpty();
    }

    @Test
    void theWayThereIsKnown() {
        var needed = Causes.needed(MANIFEST, ESTATE);
        assertThat(needed.keySet()).containsExactly(RELAY, OTHER_HOST, GATE, INSTANCE, HOST);
        assertThat(Causes.needed(FAR, ESTATE))
                .as("five steps away")
                .doesNotContainKey(HOST)
                .containsKey(INSTANCE);
        assertThat(needed.get(GATE)).isEqualTo(new Causes.Needed(GATE, 2, RELAY, false));
        assertThat(Causes.needed(GATE, ESTATE).get(HOST)).isEqualTo(new Causes.Needed(HOST, 2, INSTANCE, true));
    }

    @Test
    void whatIsHeardAtOnceIsTakenFromTheGroundUp() {
        assertThat(Causes.order(List.of(MANIFEST, GATE, HOST, RELAY, GATE), ESTATE))
                .containsExactly(2, 1, 4, 3, 0);
        assertThat(Causes.order(List.of(MANIFEST, MANIFEST), ESTATE)).containsExactly(0, 1);
        assertThat(Causes.order(List.of(), ESTATE)).isEmpty();
    }
}
