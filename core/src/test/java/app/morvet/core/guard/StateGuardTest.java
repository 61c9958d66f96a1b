package app.morvet.core.guard;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.alert.Severity;
import app.morvet.core.cases.Headline;
import app.morvet.core.readings.ReadingRing;
import app.morvet.core.readings.Readings;
import app.morvet.core.readings.StateWords;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What a component is in, told by small stories: a letter a minute of what it says, {@code .} where it says nothing. */
class StateGuardTest {
    private static final Instant START = Instant.parse("2026-11-24T04:00:00Z");
    private static final Duration MINUTE = Duration.ofMinutes(1);
    private static final StateWords WORDS = new StateWords(List.of("running", "starting", "stopped"));

    private static Readings told(String story) {
        var ring = new ReadingRing();
        for (int i = 0; i < story.length(); i++) {
            int place = "rsX".indexOf(story.charAt(i));
            if (place >= 0) ring.add(START.plusSeconds(60L * i), place);
        }
        return ring.all();
    }

    private static StateGuard guard(String sort) {
        var calm = Terms.clearing(1, MINUTE);
        return switch (sort) {
            case "usual" ->
                new StateGuard(
                        StateGuard.Condition.in(Duration.ofMinutes(5), "starting"),
                        StateGuard.Condition.in(Duration.ofMinutes(2), "stopped"),
                        calm);
            case "at once" ->
                new StateGuard(
                        null, StateGuard.Condition.in(Duration.ZERO, "stopped"), Terms.clearing(1, Duration.ZERO));
            case "came" ->
                new StateGuard(
                        new StateGuard.Condition(StateGuard.Manner.CAME, List.of("starting"), Duration.ofMinutes(3)),
                        null,
                        Terms.clearing(1, Duration.ZERO));
            case "left" ->
                new StateGuard(
                        new StateGuard.Condition(StateGuard.Manner.LEFT, List.of("running"), Duration.ofMinutes(3)),
                        null,
                        Terms.clearing(1, Duration.ZERO));
            case "both" ->
                new StateGuard(
                        StateGuard.Condition.in(MINUTE, "stopped"),
                        StateGuard.Condition.in(Duration.ofMinutes(4), "stopped"),
                        calm);
            case "silence" ->
                new StateGuard(
                        null,
                        StateGuard.Condition.in(Duration.ZERO, "stopped"),
                        calm.withNoData(new NoData(Duration.ofMinutes(3), NoData.Meaning.NOTICE)));
            default -> throw new IllegalArgumentException(sort);
        };
    }

    private static String transitions(StateGuard guard, String story, Duration cadence) {
        return GuardEvaluator.step(
                        guard,
                        GuardState.startingAt(START.minusSeconds(1)),
                        Heard.ofState(told(story), WORDS, cadence),
                        START.plusSeconds(60L * (story.length() - 1)))
                .transitions()
                .stream()
                .map(one -> one.kind() + " " + Duration.between(START, one.at()).toMinutes()
                        + (one.level() == null ? "" : " " + one.level()))
                .reduce((one, other) -> one + "; " + other)
                .orElse("nothing");
    }

    @ParameterizedTest
    @CsvSource(
            quoteCharacter = '\'',
            textBlock =
                    """
                    # what is bad for less than its time raises nothing; a word told again does not begin anew
                    usual,   rrXXrrrr,              nothing
                    usual,   rrXXXXrrrr,            'RAISED 4 CRITICAL; CLEARED 7'
                    usual,   rrsssssssrrr,          'RAISED 7 WARNING; CLEARED 10'
                    # from bad to another bad: its own time runs, and the alert that is up stays up meanwhile
                    usual,   rsssssssXXXXrrr,       'RAISED 6 WARNING; ROSE 10 CRITICAL; CLEARED 13'
                    usual,   rXXXsssssssrrr,        'RAISED 3 CRITICAL; EASED 5 WARNING; CLEARED 12'
                    # what is not heard in between does not begin the time anew, and nothing is raised while it is not known
                    usual,   rX.XXrrr,              'RAISED 3 CRITICAL; CLEARED 6'
                    usual,   rX........,            nothing
                    usual,   rXXXX......rrr,        'RAISED 3 CRITICAL; CLEARED 12'
                    at once, rXrXXr,                'RAISED 1 CRITICAL; CLEARED 2; RAISED 3 CRITICAL; CLEARED 5'
                    # who is in it from the first word on did not come into it, as far as is known
                    came,    sssrrsrrrrr,           'RAISED 5 WARNING; CLEARED 8'
                    came,    rsrsrrrrrr,            'RAISED 1 WARNING; CLEARED 6'
                    left,    XrrrsXXXXrr,           'RAISED 4 WARNING; CLEARED 7'
                    both,    rXXXXXXrrr,            'RAISED 2 WARNING; ROSE 5 CRITICAL; CLEARED 8'
                    silence, rr.....rrr,            'RAISED 4 NOTICE; CLEARED 8'
                    """)
    void theAlertsOfAStory(String sort, String story, String expected) {
        assertThat(transitions(guard(sort), story, MINUTE)).isEqualTo(expected);
    }

    @Test
    void whatIsToldOnlyWhenItChangesStandsUntilItDoes() {
        assertThat(transitions(guard("usual"), "r...X..............r..", Duration.ofDays(36_500)))
                .isEqualTo("RAISED 6 CRITICAL; CLEARED 20");
    }

    @Test
    void itReadsAsASentence() {
        var naming = new GuardSentence.Naming("service", "", "each component of Freight Manifests", id -> "");
        assertThat(GuardSentence.of(guard("usual"), naming))
                .isEqualTo("Watch service on each component of Freight Manifests. Critical when stopped for 2 min, "
                        + "warning when starting for 5 min. Clear when that has been over for 1 min.");
        assertThat(GuardSentence.of(guard("left"), naming))
                .contains("Warning when it left running within the last 3 min. Clear at once.");
        assertThat(GuardSentence.limits(guard("came"), ""))
                .isEqualTo("warning when it came into starting within the last 3 min");
        assertThat(GuardSentence.value(guard("usual"), 2002, WORDS.text())).isEqualTo("stopped");
    }

    @ParameterizedTest
    @CsvSource({
        "usual, 2002, CRITICAL, Service on gate is stopped",
        "usual, 1001, CRITICAL, Service on gate is starting",
        "usual, 0, CRITICAL, 'Service on gate is running, back from stopped'",
        "usual, 0, WARNING, 'Service on gate is running, back from starting'",
        "came, 1001, WARNING, Service on gate came into starting",
        "came, 0, WARNING, 'Service on gate came into starting, is running now'",
        "left, 1002, WARNING, 'Service on gate left running, is stopped now'",
    })
    void whatIsWrongInOneLine(String sort, double value, Severity level, String words) {
        assertThat(Headline.of(
                        guard(sort), new Headline.Told("service", "service", WORDS.text(), "gate", level, value, null)))
                .isEqualTo(words);
    }

    /** Of a word that is several the sentence is none, so it stands for itself. */
    @Test
    void wordsThatAreSeveralStandForThemselves() {
        var guard = new StateGuard(
                null,
                StateGuard.Condition.in(MINUTE, "no answer"),
                guard("usual").terms());
        assertThat(Headline.of(
                        guard,
                        new Headline.Told(
                                "check",
                                "check",
                                "passed, failed, no answer",
                                "Fares API",
                                Severity.CRITICAL,
                                2002,
                                null)))
                .isEqualTo("Check on Fares API: no answer");
    }

    /** Of two values the worse is the one whose word is worse, whatever its place among the words. */
    @Test
    void theWorstIsTheWorstWord() {
        var guard = new StateGuard(
                StateGuard.Condition.in(MINUTE, "stopped"),
                StateGuard.Condition.in(MINUTE, "running"),
                guard("usual").terms());
        assertThat(guard.limits().worse(guard.value("running", 0), guard.value("stopped", 2)))
                .isEqualTo(guard.value("running", 0));
    }

    @Test
    void wordsAreOnlyEverAddedAtTheEnd() {
        assertThat(WORDS.with(List.of("stopped", "lost", "running")).all())
                .containsExactly("running", "starting", "stopped", "lost");
        assertThat(StateWords.parse(WORDS.text())).isEqualTo(WORDS);
        assertThat(WORDS.place("lost")).isEqualTo(-1);
        assertThat(WORDS.word(7)).isEqualTo("state 7.0");
    }

    @Test
    void whatCannotBeIsSaid() {
        assertThatThrownBy(() -> new StateGuard(null, null, guard("usual").terms()))
                .hasMessageContaining("say which words are bad");
        assertThatThrownBy(() -> StateGuard.Condition.in(MINUTE)).hasMessageContaining("name the words");
        assertThatThrownBy(() -> StateGuard.Condition.in(MINUTE, "a,b")).hasMessageContaining("has no comma");
        assertThatThrownBy(() -> StateGuard.Condition.in(Duration.ofDays(8), "a"))
                .hasMessageContaining("0 min to 7 days");
        assertThatThrownBy(() -> new StateGuard.Condition(StateGuard.Manner.LEFT, List.of("a"), Duration.ZERO))
                .hasMessageContaining("1 min or more");
        assertThatThrownBy(() -> new StateWords(List.of("up", "up"))).hasMessageContaining("stands twice");
        assertThatThrownBy(() -> new StateWords(List.of(" up"))).hasMessageContaining("no blank around it");
    }
}
