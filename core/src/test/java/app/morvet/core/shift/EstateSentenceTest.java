package app.morvet.core.shift;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.NOTICE;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.core.alert.Trouble;
import app.morvet.core.shift.EstateSentence.Up;
import java.util.List;
import org.junit.jupiter.api.Test;

class EstateSentenceTest {
    @Test
    void eachSortIsSaidOnceTheWorstFirstAndWhatThereIsNoneOfIsNot() {
        var parts = EstateSentence.of(List.of(
                new Up(1, Trouble.LIMIT, WARNING),
                new Up(2, Trouble.LIMIT, NOTICE),
                new Up(3, Trouble.SILENT, WARNING),
                new Up(4, Trouble.STATE, CRITICAL),
                new Up(5, Trouble.FAILING, NOTICE)));
        assertThat(parts.stream().map(EstateSentence.Part::words))
                .containsExactly("1 not as it should be", "2 over a limit", "1 silent", "1 fails messages");
        assertThat(parts.getFirst().worst()).isEqualTo(CRITICAL);
    }

    @Test
    void aComponentCountsOnceHoweverManyAlertsItHas() {
        assertThat(EstateSentence.of(
                        List.of(new Up(1, Trouble.FAILING, WARNING), new Up(1, Trouble.FAILING, CRITICAL))))
                .containsExactly(new EstateSentence.Part(Trouble.FAILING, 1, CRITICAL));
        assertThat(EstateSentence.of(List.of())).isEmpty();
    }
}
