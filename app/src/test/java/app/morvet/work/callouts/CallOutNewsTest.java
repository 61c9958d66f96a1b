package app.morvet.work.callouts;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.Mailed;
import app.morvet.alerting.windows.StoredWindow;
import app.morvet.alerting.windows.Windows;
import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.CallOutRule;
import app.morvet.core.callouts.Digest;
import app.morvet.core.callouts.Happening;
import app.morvet.core.callouts.Step;
import app.morvet.core.callouts.Way;
import app.morvet.core.callouts.Whom;
import app.morvet.core.callouts.Wishes;
import app.morvet.core.estate.Scope;
import app.morvet.core.windows.MaintenanceWindow;
import app.morvet.core.windows.Plan;
import app.morvet.ground.estate.Estate;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** What rules tell of that is no case: windows, what vendors write, what is changed or new, what admins do, what is not delivered. */
class CallOutNewsTest extends ToldPeople {
    @Autowired
    private Windows windows;

    @Autowired
    private WishStore wishes;

    @Autowired
    private DeliveryStore deliveries;

    private final List<Long> made = new ArrayList<>();
    private String night = "";

    @BeforeEach
    void somethingToHearOf() {
        host = component("host");
        night = host.key() + "-night@sundrava.example";
    }

    /** They are over the whole estate of all tests. */
    @AfterEach
    void noRules() {
        for (long id : made)
            rulesOfCallOuts.delete(id, rulesOfCallOuts.byId(id).orElseThrow().version(), person("lead"));
    }

    private void tells(Happening what, Scope scope) {
        tells(what, scope, new Whom.Address(night));
    }

    private void tells(Happening what, Scope scope, Whom... whom) {
        var steps = Arrays.stream(whom)
                .map(one -> new Step(Duration.ZERO, one, List.of(Way.MAIL)))
                .toList();
        var rule = new CallOutRule(
                what + " of " + host.key(), what, Severity.NOTICE, scope, null, steps, null, false, false);
        made.add(rulesOfCallOuts.keep(new CallOutRules.Stored(0, rule, false, 0), null));
    }

    private Scope ofTheHost() {
        return Scope.ALL.named(host.key());
    }

    private List<String> subjects() throws Exception {
        var subjects = new ArrayList<String>();
        for (var mail : MAIL.getReceivedMessagesForDomain(night)) subjects.add(mail.getSubject());
        return subjects;
    }

    private void change(Subject of, String after) throws Exception {
        var event = Map.of(
                "specversion",
                "1.0",
                "id",
                of.key() + after,
                "source",
                "/deploy",
                "type",
                "app.morvet.change.observed",
                "subject",
                of.key(),
                "time",
                Instant.now().toString(),
                "data",
                Map.of("what", "version", "before", "1", "after", after, "by", "Pia Lumme"));
        send(List.of(event));
    }

    @Test
    void whatIsChangedIsToldToWhoeverWantsToKnow() throws Exception {
        tells(Happening.CHANGED, ofTheHost());
        change(component("host"), "2");
        change(host, "2.1");
        eventually(() -> assertThat(subjects()).hasSize(1));
        assertThat(subjects().getFirst()).startsWith("The " + host.key() + ": ").contains("2.1");
        var text = Mailed.text(MAIL.getReceivedMessagesForDomain(night)[0]);
        assertThat(text).contains("By Pia Lumme.").contains("/estate/components/" + host.key());
    }

    /** Whoever wishes to hear nothing of windows hears of other things all the same. */
    @Test
    void whoeverWishesHearsNothingOfWindows() throws Exception {
        long first = onDuty(0, "Otso", "");
        wishes.keep(first, new Wishes(null, null, null, null, false));
        tells(Happening.WINDOW, ofTheHost(), new Whom.OnDuty(Whom.OWNER, 0), new Whom.Address(night));
        aWindowBegins();
        eventually(() -> assertThat(subjects()).hasSize(1));
        assertThat(deliveries.ofRule(made.getFirst(), 10))
                .extracting(Delivery::recipient)
                .containsExactly(night);
        tells(Happening.CHANGED, ofTheHost(), new Whom.OnDuty(Whom.OWNER, 0));
        change(host, "4");
        eventually(() -> assertThat(deliveries.ofRule(made.getLast(), 10)).hasSize(1));
    }

    @Test
    void aWindowThatBeginsIsTold() throws Exception {
        tells(Happening.WINDOW, ofTheHost());
        aWindowBegins();
        eventually(() -> assertThat(subjects()).hasSize(1));
        assertThat(subjects().getFirst()).startsWith("Window \"Firmware of " + host.key() + "\" has begun, until ");
    }

    private void aWindowBegins() {
        var now = Instant.now();
        windows.set(StoredWindow.fresh(new MaintenanceWindow(
                "Firmware of " + host.key(),
                ofTheHost(),
                Plan.once(now.minusSeconds(60), now.plusSeconds(3600), ZONE),
                MaintenanceWindow.Effect.HOLD,
                MaintenanceWindow.Jobs.AS_EVER,
                "new firmware")));
    }

    @Test
    void whatIsNewIsToldOnce() throws Exception {
        var key = host.key() + "-fresh";
        tells(Happening.NEW, Scope.ALL.named(key));
        estate.register(List.of(new Estate.Newcomer(key, "host"), new Estate.Newcomer(host.key(), "host")));
        estate.register(List.of(new Estate.Newcomer(key, "host")));
        eventually(() -> assertThat(subjects()).containsExactly("New in the estate: " + key));
    }

    @Test
    void whatAnAdminSetsUpIsToldAndWhatOthersDoIsNot() throws Exception {
        tells(Happening.SETUP, Scope.ALL);
        var form = "login=%s&name=New+One&role=ANALYST&mail=&phone=&password=grey+gulls+over+piers"
                .formatted(host.key() + "-new");
        assertThat(loggedIn("admin").post("/setup/people/new", form).statusCode())
                .isEqualTo(302);
        eventually(() -> assertThat(subjects()).containsExactly("person made, by Mirva Kesti"));
    }

    /** As all that is not critical, it waits for whoever wishes so. */
    @Test
    void whoeverWishesHearsOfItInTheirDigest() throws Exception {
        long first = onDuty(0, "Otso", "");
        wishes.keep(
                first,
                new Wishes(
                        null,
                        null,
                        null,
                        new Digest(
                                Digest.Every.DAY,
                                java.time.DayOfWeek.MONDAY,
                                java.time.LocalTime.now(ZONE).minusMinutes(2).withNano(0)),
                        true));
        tells(Happening.CHANGED, ofTheHost(), new Whom.OnDuty(Whom.OWNER, 0));
        change(host, "3");
        eventually(() -> assertThat(deliveries.ofRule(made.getFirst(), 10))
                .singleElement()
                .satisfies(one -> {
                    assertThat(one.state()).isEqualTo(Delivery.State.WAITING);
                    assertThat(one.nextTry()).isAfter(Instant.now().plus(Duration.ofHours(20)));
                }));
    }

    @Test
    void aRuleOfTheSortIsMadeOnThePageAndItsPreviewSaysWhatItCannotShow() throws Exception {
        var lead = loggedIn("lead");
        var fields = new java.util.HashMap<>(Map.of(
                "id",
                "0",
                "version",
                "0",
                "name",
                "Setup of " + host.key(),
                "when",
                "SETUP",
                "severity",
                "CRITICAL",
                "whom0",
                "role LEAD",
                "ways0",
                "MAIL",
                "after0",
                "15 min",
                "over",
                "yes"));
        fields.put("whom1", "");
        var preview = lead.post("/callouts/rules/preview", fields).body();
        assertThat(preview)
                .contains("When an admin changes what is set up, tell all who are lead by mail.")
                .contains("tells of no case");
        assertThat(lead.post("/callouts/rules/save", fields).statusCode()).isEqualTo(302);
        var kept = rulesOfCallOuts.all().stream()
                .filter(one -> one.rule().name().equals("Setup of " + host.key()))
                .findFirst()
                .orElseThrow();
        made.add(kept.id());
        assertThat(kept.rule().when()).isEqualTo(Happening.SETUP);
        assertThat(Arrays.asList(kept.rule().over(), kept.rule().again())).containsExactly(false, null);
    }
}
