package app.morvet.sources.messages;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Who asks for open messages looks at all days on which there may be any, and at no others. */
class OpenDaysTest extends MorvetTest {
    /** No other test sends anything of that day. */
    private static final Instant LATE = Instant.now().minus(Duration.ofDays(83));

    @Autowired
    OpenDays days;

    private static LocalDate day(Instant at) {
        return at.atOffset(ZoneOffset.UTC).toLocalDate();
    }

    private List<LocalDate> noted() {
        return jdbc.sql("select day from message_open_day order by day")
                .query((row, number) -> row.getDate(1).toLocalDate())
                .list();
    }

    @Test
    void aLateMessageIsSeenToBeOpenUntilItIsDealtWithAndAgainWhenThatIsTakenBack() throws Exception {
        var subject = subject();
        sorting(subject, "refused", false);
        var late = new HashMap<>(failed(subject, Map.of("error", "late and refused")));
        late.put("time", LATE.toString());
        assertThat(send(List.of(late)).statusCode()).isEqualTo(202);
        assertThat(noted()).contains(day(LATE));
        assertThat(days.since()).isBeforeOrEqualTo(LATE);
        days.dropOld(Instant.now());
        assertThat(noted()).contains(day(LATE));
        var analyst = loggedIn("analyst");
        var rows = "tr:contains(" + subject.key() + ")";
        assertThat(analyst.page("/messages").select(rows).text()
                        + analyst.page("/messages/others").select(rows).text())
                .contains("1");

        var done = analyst.post("/messages/deal", "interface=" + subject.key() + "&reason=MENDED&note=cable")
                .body();
        days.dropOld(Instant.now());
        assertThat(noted()).doesNotContain(day(LATE));

        var undo = Pattern.compile("/messages/dealings/(\\d+)/undo").matcher(done);
        assertThat(undo.find()).isTrue();
        assertThat(analyst.post(undo.group(), "x=1").body()).contains("1 failed message");
        assertThat(noted()).contains(day(LATE));
    }
}
