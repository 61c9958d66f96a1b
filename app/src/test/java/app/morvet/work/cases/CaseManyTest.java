package app.morvet.work.cases;

import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Browser;
import app.morvet.ToldAlerts;
import app.morvet.core.cases.CaseState;
import app.morvet.core.cases.SettleReason;
import java.util.List;
import java.util.stream.Collectors;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What is done to many cases is done to each as if it were done to it alone. */
class CaseManyTest extends ToldAlerts {
    private List<Subject> hosts = List.of();
    private Browser analyst;

    @BeforeEach
    void threeCases() throws Exception {
        long guard = guard("many");
        hosts = List.of(component("host"), component("host"), component("host"));
        for (var one : hosts) raised(guard, one, 0, WARNING, 3);
        analyst = loggedIn("analyst");
    }

    private String picked(int versionOfTheLast) {
        return hosts.stream()
                        .map(one -> "pick=" + theCase(one).id() + "%3A"
                                + theCase(one).version())
                        .limit(2)
                        .collect(Collectors.joining("&"))
                + "&pick=" + theCase(hosts.getLast()).id() + "%3A" + versionOfTheLast;
    }

    private Document done(String form) throws Exception {
        return Browser.shown(analyst.post("/cases/many", form));
    }

    private List<CaseState> states() {
        return hosts.stream().map(one -> theCase(one).state()).toList();
    }

    @Test
    void whatHasMovedOnIsLeftAndSaidAndTheOthersAreDone() throws Exception {
        var said = done(picked(99) + "&act=take");
        assertThat(said.select(".said span").first().text()).isEqualTo("2 cases: taken.");
        assertThat(said.select(".refusal").text())
                .startsWith("Case %d: ".formatted(theCase(hosts.getLast()).id()));
        assertThat(states()).containsExactly(CaseState.TAKEN, CaseState.TAKEN, CaseState.NEW);
        var undo = said.select("[name=entry]").eachAttr("value").stream()
                .map(one -> "entry=" + one)
                .collect(Collectors.joining("&"));
        var back = Browser.shown(analyst.post("/cases/many/undo", undo));
        assertThat(back.text()).contains("2 cases are as before.");
        assertThat(states()).containsOnly(CaseState.NEW);
    }

    @Test
    void theyAreSettledForOneReasonAndMadeQuietAndNoted() throws Exception {
        int version = theCase(hosts.getLast()).version();
        assertThat(done(picked(version) + "&act=note&words=").select(".refusal"))
                .hasSize(3);
        assertThat(done(picked(version) + "&act=note&words=the+same+pump").text())
                .contains("3 cases: noted.");
        for (var one : hosts) assertThat(logOf(theCase(one))).contains("the same pump");
        done(picked(version) + "&act=quiet");
        for (var one : hosts) assertThat(theCase(one).progress().quietUntil()).isNotNull();
        version = theCase(hosts.getLast()).version();
        assertThat(done(picked(version) + "&act=settle&reason=JOINED").select(".refusal"))
                .as("nobody chooses that")
                .hasSize(3);
        done(picked(version) + "&act=settle&reason=PLANNED");
        for (var one : hosts) assertThat(theCase(one).progress().settleReason()).isEqualTo(SettleReason.PLANNED);
    }

    @Test
    void whatIsNoCaseOrNoActIsNothing() throws Exception {
        assertThat(done("pick=nonsense&pick=999999999%3A1&act=take").text()).contains("0 cases: taken.");
        assertThat(analyst.post("/cases/many", "pick=1%3A1&act=burn").statusCode())
                .isEqualTo(400);
    }

    @Test
    void manyAreGivenToOne() throws Exception {
        var other = person("other");
        int version = theCase(hosts.getLast()).version();
        assertThat(done(picked(version) + "&act=give&to=" + other.id())
                        .select(".said span")
                        .first()
                        .text())
                .isEqualTo("3 cases: given.");
        assertThat(hosts)
                .allSatisfy(one -> assertThat(theCase(one).progress().takenBy()).isEqualTo(other.id()));
        version = theCase(hosts.getLast()).version();
        assertThat(done(picked(version) + "&act=give").select(".refusal").text())
                .contains("Choose a person");
    }
}
