package app.morvet.rules.guards;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.morvet.core.alert.Severity;
import app.morvet.core.estate.Scope;
import app.morvet.core.guard.Amount;
import app.morvet.core.guard.BandGuard;
import app.morvet.core.guard.Clearing;
import app.morvet.core.guard.CombinationGuard;
import app.morvet.core.guard.Damping;
import app.morvet.core.guard.Expression;
import app.morvet.core.guard.Grouping;
import app.morvet.core.guard.Guard;
import app.morvet.core.guard.Hours;
import app.morvet.core.guard.Limit;
import app.morvet.core.guard.LimitGuard;
import app.morvet.core.guard.Limits;
import app.morvet.core.guard.NoData;
import app.morvet.core.guard.Side;
import app.morvet.core.guard.SilenceGuard;
import app.morvet.core.guard.Spans;
import app.morvet.core.guard.StateGuard;
import app.morvet.core.guard.Terms;
import app.morvet.core.guard.TrendGuard;
import app.morvet.core.guard.Watch;
import app.morvet.core.guard.Window;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import tools.jackson.databind.json.JsonMapper;

/** Guards into the sentence form and back, and into the store and back. */
class GuardFormTest {
    private static final ZoneId ZONE = ZoneId.of("Europe/Helsinki");
    private static final Terms RICH = new Terms(
            new Clearing(0.85, Duration.ofSeconds(90)),
            new NoData(Duration.ofHours(2), NoData.Meaning.WARNING),
            new Grouping(Grouping.By.LABEL, "volume"),
            new Hours(EnumSet.of(DayOfWeek.MONDAY, DayOfWeek.SUNDAY), LocalTime.of(22, 0), LocalTime.of(6, 30), ZONE),
            new Damping(3, Duration.ofMinutes(90)));
    private static final Terms PLAIN = Terms.clearing(1, Duration.ZERO);

    static Stream<Guard> guards() {
        return Stream.of(
                new LimitGuard(
                        new Window.Sliding(Duration.ofMinutes(20)),
                        Amount.percentile(0.95).least(4),
                        new Limits(Limit.above(2.5), null),
                        RICH),
                new LimitGuard(
                        new Window.SinceMidnight(ZONE),
                        Amount.each(0.8).shareOf(new Amount.Ceiling.Measured("licences_owned")),
                        new Limits(Limit.outside(2, 8), Limit.outside(1, 9)),
                        PLAIN),
                new LimitGuard(
                        new Window.Sliding(Duration.ofDays(1)),
                        Amount.of(Amount.Fold.RATE).shareOf(new Amount.Ceiling.Fixed(60)),
                        Limits.below(10, -4.5),
                        PLAIN),
                new SilenceGuard(Limits.above(3, 12), PLAIN),
                new TrendGuard(95, Side.ABOVE, Duration.ofDays(7), true, ZONE, Limits.below(72, 12), RICH),
                new BandGuard(Duration.ofMinutes(45), 0.6, Side.OUTSIDE, 6, ZONE, Limits.above(3.5, 8), RICH),
                new StateGuard(
                        new StateGuard.Condition(StateGuard.Manner.LEFT, List.of("running"), Duration.ofMinutes(10)),
                        StateGuard.Condition.in(Duration.ofMinutes(2), "stopped", "failed to start"),
                        new Terms(
                                new Clearing(1, Duration.ofMinutes(3)),
                                RICH.noData(),
                                RICH.grouping(),
                                null,
                                RICH.damping())),
                new StateGuard(
                        new StateGuard.Condition(StateGuard.Manner.CAME, List.of("starting"), Duration.ofMinutes(15)),
                        null,
                        PLAIN),
                new StateGuard(null, StateGuard.Condition.in(Duration.ZERO, "does not serve"), PLAIN),
                new CombinationGuard(
                        Expression.parse("a and not (b or c)"), List.of(4L, 9L, 2L), Severity.CRITICAL, true, PLAIN));
    }

    @ParameterizedTest
    @MethodSource("guards")
    void aGuardComesBackFromItsFormAndFromTheStoreAsItWas(Guard rule) {
        var watch = rule instanceof CombinationGuard
                ? new Watch("", new Scope("freight", "host", 1, "production", "quay-*", "", "", false), "", "")
                : new Watch(
                        "disk_used",
                        new Scope("freight", "host", 1, "production", "quay-*", "", "", false),
                        "volume",
                        "/d*");
        var standing = new StoredGuard(1, "Name", true, watch, rule, "note", 7L, 3);
        var read = GuardFormReader.read(GuardForm.of(standing), ZONE);
        assertThat(read.errors()).isEmpty();
        assertThat(read.rule()).isEqualTo(rule);
        assertThat(read.watch()).isEqualTo(watch);

        var json = new GuardJson(new JsonMapper());
        assertThat(json.readGuard(json.write(rule))).isEqualTo(rule);
        assertThat(json.readWatch(json.write(watch))).isEqualTo(watch);
    }

    @ParameterizedTest
    @CsvSource({
        "kind=state;stateCritical=,  stateCritical, 'Say which words are bad'",
        "kind=state;stateCritical=stopped;stateCriticalFor=8 days, stateCritical, 'A state counts for 0 min to 7 days'",
        "kind=state;stateCritical=stopped;stateCriticalIs=came;stateCriticalFor=0 min, stateCritical, 'What a state came into or left counts for 1 min or more'",
        "kind=state;stateWarning=slow;stateWarningFor=soon, stateWarningFor, '\"soon\" is not a duration'",
        "length=0,               length,   A sliding window is 1 min to 7 days long",
        "length=soon,            length,   '\"soon\" is not a duration; write it such as 15 min, 3 h or 2 days.'",
        "warning=x,              warning,  '\"x\" is not a number.'",
        "critical=5,             critical, The critical limit (5) must be above the warning limit (10).",
        "warning=;critical=,     critical, 'A guard needs a warning limit, a critical limit or both.'",
        "inside=100,             inside,   'An alert clears 0 % to under 100 % inside its limit, was 100 %.'",
        "calm=25 h,              calm,     The clear time is 0 to 24 h",
        "calm=soon,              calm,     '\"soon\" is not a duration'",
        "inside=-1,              inside,   'An alert clears 0 % to under 100 % inside its limit, was -1 %.'",
        "inside=most,            inside,   '\"most\" is not a number.'",
        "kind=,                  kind,     Choose what kind of guard it is.",
        "kind=oracle,            kind,     Choose what kind of guard it is.",
        "tier=9,                 tier,     'A tier is 1, 2, 3 or 4, was 9.'",
        "tier=high,              tier,     'A tier is 1, 2, 3 or 4, was high.'",
        "least=1.5,              least,    '\"1.5\" is not a whole number.'",
        "fold=percentile;percentile=, percentile, A percentile lies above 0 and under 100.",
        "fold=each;share=101,    share,    A share of readings is 0 to 100 %.",
        "ceiling=-3,             ceiling,  A ceiling is a number above 0.",
        "side=outside;warning=5, warning,  Give both the lower and the upper limit.",
        "side=equal;critical=10, critical, The critical value must be another one than the warning value.",
        "kind=silence;missedWarning=;missedCritical=, missedCritical, 'A guard needs a warning limit, a critical limit or both.'",
        "kind=silence;missedWarning=12;missedCritical=3, missedCritical, The critical limit (3) must be above the warning limit (12).",
        "kind=trend;target=95;lookback=ages, lookback, '\"ages\" is not a duration'",
        "kind=trend;target=95;ahead=8 h;aheadCritical=72 h, aheadCritical, It warns earlier than it is critical: this must be less than 8 h.",
        "kind=band;bandShare=,   bandShare, Give a share in per cent.",
        "kind=band;weeks=,       weeks,    Give a whole number.",
        "kind=combination;member0=x, expression, Choose the guards that are combined.",
        "hours=some;onmon=yes;from=6;to=22:00, hours, '\"6\" is not a time of day; write it such as 06:30.'",
        "flapTimes=3;flapWithin=2 days, flapTimes, Flapping is counted within 1 min to 24 h",
        "flapTimes=three,        flapTimes, '\"three\" is not a number.'",
        "silenceMeans=critical;silence=never, silence, '\"never\" is not a duration'",
        "least=0,                least,    At least 1 reading is needed",
        "fold=percentile;percentile=100, percentile, A percentile lies above 0 and under 100.",
        "grouping=label,         groupLabel, Name the label that alerts go by.",
        "hours=some,             hours,    Choose at least one day",
        "flapTimes=1,            flapTimes, An alert flaps after 2 to 20 times",
        "measure=,               measure,  Choose what is measured.",
        "kind=trend,             target,   Give the value that it heads to.",
        "kind=combination,       expression, Choose the guards that are combined.",
        "labelValue=/data,       labelValue, Name the label whose value must be"
    })
    void whatCannotBeMeantIsSaidAtItsField(String typed, String field, String words) {
        var fields = new HashMap<String, String>();
        fields.put("name", "Name");
        fields.put("measure", "disk_used");
        fields.put("warning", "10");
        fields.put("critical", "100");
        for (var one : typed.split(";"))
            fields.put(
                    one.substring(0, one.indexOf('=')),
                    one.substring(one.indexOf('=') + 1).strip());
        var read = GuardFormReader.read(new GuardForm(fields), ZONE);
        assertThat(read.rule()).isNull();
        assertThat(read.errors().get(field)).as(read.errors().toString()).startsWith(words);
    }

    @Test
    void durationsAreReadAsPeopleWriteThem() {
        assertThat(Spans.read("90")).isEqualTo(Duration.ofMinutes(90));
        assertThat(Spans.read("2h 30 min")).isEqualTo(Duration.ofMinutes(150));
        assertThat(Spans.read("1,5 days")).isEqualTo(Duration.ofHours(36));
        assertThat(Spans.read("45 s")).isEqualTo(Duration.ofSeconds(45));
        assertThatThrownBy(() -> Spans.read("5 months")).hasMessageContaining("not a duration");
        assertThatThrownBy(() -> Spans.read("")).hasMessageContaining("not a duration");
    }
}
