package app.morvet.sources.messages;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.MorvetTest;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** The few causes behind the many failed messages. */
class FamiliesTest extends MorvetTest {
    @Autowired
    Families families;

    @SuppressWarnings("unchecked")
    private Map<String, Object> failing(Subject subject, String error, int second) {
        var event = new HashMap<>(failed(
                UUID.randomUUID().toString(), subject.key(), Instant.now().minusSeconds(second)));
        var data = new HashMap<>((Map<String, Object>) event.get("data"));
        data.put("error", error);
        event.put("data", data);
        return event;
    }

    private List<Long> of(Subject subject) {
        return jdbc.sql(
                        "select family_id from failed_message where component_id = :id group by 1 order by count(*) desc")
                .param("id", subject.id())
                .query(Long.class)
                .list();
    }

    @Test
    void manyFailuresOfTwoCausesAreTwoFamilies() throws Exception {
        var subject = subject();
        guard(subject, java.time.Duration.ofMinutes(10));
        var events = new ArrayList<Map<String, Object>>();
        for (int i = 0; i < 30; i++) {
            events.add(failing(
                    subject,
                    "Pier %d of harbour '%s' is closed since 0%d:1%d"
                            .formatted(i, i % 3 == 0 ? "VELMO" : "SNDRA", i % 9, i % 7),
                    i));
            if (i % 3 == 0) events.add(failing(subject, "Winch <b>" + i + "</b> jammed at " + UUID.randomUUID(), i));
        }
        assertThat(send(events).statusCode()).isEqualTo(202);
        var found = of(subject);
        assertThat(found).hasSize(2);

        var analyst = loggedIn("analyst");
        var list = analyst.get("/messages/families?interface=" + subject.key()).body();
        assertThat(list)
                .contains("40 failed messages, 2 families on Interface " + subject.key(), "new today")
                .contains("Pier ⟨n⟩ of harbour ⟨text⟩ is closed since ⟨n⟩", "Winch &lt;b&gt;⟨n⟩&lt;/b&gt; jammed");
        var one = analyst.get("/messages/families/" + found.getFirst()).body();
        assertThat(one).contains("&#39;SNDRA&#39;", "2 different", "Interface " + subject.key(), ">20<");
        assertThat(analyst.get("/messages/families/999999").statusCode()).isEqualTo(404);
        eventually(() -> {
            var dossier = analyst.get("/cases/" + caseOf(subject).get("id")).body();
            assertThat(dossier).contains("/messages/families/" + found.getFirst(), "<b>30</b>");
        });
    }

    @Test
    void whatWasStoredBeforeFamiliesWereIsToldItsFamily() throws Exception {
        var subject = subject();
        assertThat(send(List.of(failing(subject, "Anchor " + UUID.randomUUID() + " lost", 1)))
                        .statusCode())
                .isEqualTo(202);
        var before = of(subject);
        jdbc.sql("update failed_message set family_id = null where component_id = :id")
                .param("id", subject.id())
                .update();
        while (families.run("all").isPresent()) continue;
        assertThat(of(subject)).isEqualTo(before);
    }
}
