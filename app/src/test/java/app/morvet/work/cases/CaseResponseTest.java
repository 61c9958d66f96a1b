package app.morvet.work.cases;

import static app.morvet.core.alert.Severity.CRITICAL;
import static app.morvet.core.alert.Severity.NOTICE;
import static app.morvet.core.alert.Severity.WARNING;
import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.FreshDatabase;
import app.morvet.MorvetTest;
import app.morvet.ToldAlerts;
import app.morvet.core.cases.SettleReason;
import java.util.List;
import java.util.Set;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;

/** By when somebody should have a case of the first tier: a critical one within 15 minutes, a warning within 60, a notice within 480. */
class CaseResponseTest extends ToldAlerts {
    @Autowired
    private CaseJoining joining;

    private long hot;
    private long hotter;
    private MorvetTest.Subject host;

    @BeforeEach
    void aHost() {
        hot = guard("Hot");
        hotter = guard("Hotter");
        host = component(host());
    }

    private Ranked ranked(int minute) {
        return Ranked.of(theCase(host), Set.of(), at(minute), estate);
    }

    @Test
    void whatTurnsWorseHasItsTimeFromThenOnAndIsNotLateAtOnce() {
        raised(hot, host, 0, NOTICE, 2);
        assertThat(theCase(host).respondBy()).isEqualTo(at(480));
        raised(hotter, host, 100, CRITICAL, 9);
        assertThat(theCase(host).respondBy()).isEqualTo(at(115));
        assertThat(theCase(host).late(at(114))).isFalse();
        assertThat(ranked(114).urgent().waiting()).isZero();
        assertThat(theCase(host).late(at(116))).isTrue();
        assertThat(ranked(116).urgent().waiting()).isEqualTo(10);
    }

    @Test
    void whatIsLateStaysSoWhenItTurnsWorseAndWhenItEases() {
        raised(hot, host, 0, WARNING, 3);
        rose(hot, host, 90, 9);
        assertThat(theCase(host).respondBy()).isEqualTo(at(60));
        eased(hot, host, 100, 3, 9);
        rose(hot, host, 110, 9);
        assertThat(theCase(host).respondBy()).isEqualTo(at(60));
        assertThat(ranked(111).urgent().waiting()).isEqualTo(30);
    }

    @Test
    void whatWasOverAndComesAgainHasItsTimeAnew() {
        raised(hot, host, 0, WARNING, 3);
        cleared(hot, host, 30, 3);
        assertThat(theCase(host).late(at(200)))
                .as("what is over waits for nobody")
                .isFalse();
        raised(hot, host, 200, WARNING, 3);
        assertThat(theCase(host).respondBy()).isEqualTo(at(260));
        assertThat(theCase(host).late(at(259))).isFalse();
        assertThat(theCase(host).late(at(261))).isTrue();
    }

    @Test
    void whatOpensAgainAfterItWasSettledHasItsTimeAnew() {
        raised(hot, host, 0, WARNING, 3);
        cleared(hot, host, 10, 3);
        settle(20);
        raised(hot, host, 600, WARNING, 3);
        assertThat(theCase(host).respondBy()).isEqualTo(at(660));
        settle(610);
        rose(hot, host, 700, 9);
        assertThat(theCase(host).respondBy()).isEqualTo(at(715));
    }

    private void settle(int minute) {
        var one = theCase(host);
        cases.settle(one.id(), one.version(), person("analyst"), SettleReason.MENDED, "", at(minute));
    }

    @Test
    void whatATeamGivesBackWaitsFromThenOn() {
        raised(hot, host, 0, WARNING, 3);
        var one = theCase(host);
        cases.handOff(one.id(), one.version(), null, "Freight", at(5));
        assertThat(theCase(host).late(at(500))).isFalse();
        cases.returned(one.id(), "Freight", "not ours", at(500));
        assertThat(theCase(host).respondBy()).isEqualTo(at(560));
        assertThat(theCase(host).late(at(561))).isTrue();
    }

    @Test
    void whatIsMadeACaseOfItsOwnWaitsFromThenOn() {
        raised(hot, host, 0, WARNING, 3);
        raised(hotter, host, 1, WARNING, 3);
        var one = theCase(host);
        long alert = jdbc.sql("select max(alert_id) from case_alert where case_id = :id")
                .param("id", one.id())
                .query(Long.class)
                .single();
        long fresh = joining.split(one.id(), one.version(), alert, person("analyst"), at(300));
        assertThat(cases.find(fresh).orElseThrow().respondBy()).isEqualTo(at(360));
        assertThat(cases.find(one.id()).orElseThrow().respondBy()).isEqualTo(at(60));
    }

    @Test
    void whoTakesItIsNotWaitedFor() {
        raised(hot, host, 0, CRITICAL, 9);
        var one = theCase(host);
        cases.take(one.id(), one.version(), person("analyst"), at(90));
        assertThat(theCase(host).late(at(100))).isFalse();
        assertThat(ranked(100).urgent().waiting()).isZero();
    }

    /** What was there before is promised from when it opened last, by the tier of its application. */
    @Test
    void casesOfTheVersionBeforeAreToBeTakenInTheirTimeToo() throws Exception {
        var source = FreshDatabase.empty();
        Flyway.configure().dataSource(source).target("44").load().migrate();
        var jdbc = JdbcClient.create(source);
        jdbc.sql(
                        """
                        insert into team (key, name, mail) values ('f', 'Freight', 'f@sundrava.example');
                        insert into application (key, name, tier, environment, team_id) select 'a', 'Manifests', 1, 'production', id from team;
                        insert into component (key, name, kind, first_seen, application_id) select 'first', '', 'host', now(), id from application;
                        insert into component (key, name, kind, first_seen) values ('stray', '', 'host', now());
                        insert into work_case (component_id, severity, headline, state, opened_at, first_seen, last_seen, topic_since)
                        select c.id, s, c.key || ' ' || s, 'NEW', '2027-03-18 02:00Z', now(), now(), now()
                          from component c, unnest(array['CRITICAL', 'WARNING']) s;
                        insert into case_entry (case_id, at, kind, words)
                        select id, '2027-03-18 05:00Z', 'reopened', '' from work_case where headline = 'stray WARNING'""")
                .update();
        Flyway.configure().dataSource(source).load().migrate();
        assertThat(jdbc.sql(
                                """
                                select headline || ' ' || to_char(respond_by at time zone 'UTC', 'HH24:MI') from work_case order by headline""")
                        .query(String.class)
                        .list())
                .isEqualTo(List.of(
                        "first CRITICAL 02:15", "first WARNING 03:00", "stray CRITICAL 03:00", "stray WARNING 09:00"));
    }
}
