package app.morvet.views.nights;

import static app.morvet.Browser.to;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import org.junit.jupiter.api.Test;

/** Guards over runs, as they are edited and read. */
class RunGuardPagesTest extends MorvetTest {
    @Test
    void aGuardOverRunsIsItsSentenceAndSaysWhatItMeansNow() throws Exception {
        var lead = loggedIn("lead");
        var form =
                "name=At+risk&trouble=DEADLINE_AT_RISK&severity=WARNING&below=60&criticalBelow=15&owner=&fixNote=&active=true&id=0&version=0";
        assertThat(lead.post("/batch/guards/sentence", form, "HX-Request", "true")
                        .body())
                .contains(
                        "When any job has a chance below 60 % to make its deadline, raise a warning; below 15 %, a critical.")
                .contains("It stands over");
        assertThat(lead.post("/batch/guards/save", form.replace("below=60", "below=many"))
                        .statusCode())
                .isEqualTo(422);
        var page = to(lead.post("/batch/guards/save", form));
        assertThat(lead.get(page).body()).contains("At risk").contains("What it says now");
        assertThat(to(lead.post(page + "/delete", "version=1"))).isEqualTo("/batch/guards");
        assertThat(lead.get(page).statusCode()).isEqualTo(404);
        assertThat(loggedIn("analyst").post("/batch/guards/save", form).statusCode())
                .isEqualTo(403);
    }
}
