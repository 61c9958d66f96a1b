package app.morvet.work.cases;

import static org.assertj.core.api.Assertions.assertThat;

import app.morvet.FreshDatabase;
import app.morvet.core.alert.Severity;
import app.morvet.core.cases.ResponseTime;
import app.morvet.core.estate.Tier;
import app.morvet.ground.base.Stamp;
import java.time.Instant;
import java.util.Set;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Cases of the version before get the time by which they are to be answered that they were shown with. */
class RespondByMigrationTest {
    private static final Instant OPENED = Instant.parse("2027-03-18T02:00:00Z");
    private static final Instant AGAIN = OPENED.plusSeconds(4000);

    private record Kept(Severity severity, Tier tier, String headline, Instant respondBy) {}

    @Test
    void eachIsToBeAnsweredWithinTheTimeOfItsSeverityAndTierSinceItLastTurned() throws Exception {
        var source = FreshDatabase.empty();
        Flyway.configure().dataSource(source).target("44").load().migrate();
        var jdbc = JdbcClient.create(source);
        jdbc.sql(
                        """
                        insert into team (key, name, mail) values ('t', 'Freight Systems', 't@sundrava.example');
                        insert into application (key, name, tier, environment, team_id)
                        select 'app-' || n, 'App ' || n, n, 'production', t.id from team t, generate_series(1, 4) n;
                        insert into component (key, name, kind, application_id, first_seen)
                        select 'c' || n, 'c' || n, 'host', (select id from application where tier = n), now() from generate_series(1, 5) n""")
                .update();
        jdbc.sql(
                        """
                        insert into work_case (state, component_id, severity, headline, opened_at, topic_since, first_seen, last_seen)
                        select 'NEW', c.id, s.severity, h.word, :opened, :opened, :opened, :opened
                          from component c, unnest(array['CRITICAL', 'WARNING', 'NOTICE']) s (severity),
                               unnest(array['opened', 'noted', 'reopened', 'returned']) h (word);
                        insert into case_entry (case_id, at, kind, words) select id, :again, headline, '' from work_case where headline <> 'opened'""")
                .param("opened", Stamp.of(OPENED))
                .param("again", Stamp.of(AGAIN))
                .update();
        Flyway.configure().dataSource(source).load().migrate();
        var cases = jdbc.sql(
                        """
                        select c.severity, coalesce(a.tier, :none) as tier, c.headline, c.respond_by
                          from work_case c join component o on o.id = c.component_id left join application a on a.id = o.application_id""")
                .param("none", Tier.UNASSIGNED.number())
                .query((row, number) -> new Kept(
                        Severity.valueOf(row.getString("severity")),
                        new Tier(row.getInt("tier")),
                        row.getString("headline"),
                        Stamp.in(row, "respond_by")))
                .list();
        assertThat(cases).hasSize(5 * Severity.values().length * 4).allSatisfy(one -> {
            boolean turned = Set.of("reopened", "returned").contains(one.headline());
            assertThat(one.respondBy())
                    .isEqualTo(ResponseTime.by(null, turned ? AGAIN : OPENED, one.severity(), one.tier()));
        });
    }
}
