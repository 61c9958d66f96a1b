package app.morvet.bench;

import app.morvet.core.readings.Micros;
import app.morvet.core.readings.Sort;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.InterfaceEnds;
import app.morvet.sources.readings.ReadingBook;
import app.morvet.sources.readings.SeriesBook;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Set;
import java.util.function.IntFunction;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Pages of a large estate, beside a bare page of the same server, the log-in: 100,000 past cases and 300 open ones, 500 interfaces,
 * 2,000 guards, 20,000 other components of 400 applications, 5,000 jobs, 10,000 handoffs, 2,000 services, and one with 40 series over 90 days.
 */
final class PagesBench {
    private static final int ASKED = 100;

    private static final int INTERFACES = 500;
    private static final int GUARDS = 2000;
    private static final int COMPONENTS = 20_000;
    private static final int APPLICATIONS = 400;
    private static final int TEAMS = 100;
    private static final int JOBS = 5000;
    private static final int HANDOFFS = 10_000;
    private static final int SERVICES = 2000;
    private static final int SERIES = 40;

    private final JdbcClient jdbc;
    private final Estate estate;
    private final InterfaceEnds ends;
    private final SeriesBook series;
    private final ReadingBook readings;
    private final TransactionTemplate transaction;
    private final Visitor visitor;

    PagesBench(ConfigurableApplicationContext morvet, int port) {
        this.jdbc = morvet.getBean(JdbcClient.class);
        this.estate = morvet.getBean(Estate.class);
        this.ends = morvet.getBean(InterfaceEnds.class);
        this.series = morvet.getBean(SeriesBook.class);
        this.readings = morvet.getBean(ReadingBook.class);
        this.transaction = morvet.getBean(TransactionTemplate.class);
        this.visitor = new Visitor(port, ASKED);
    }

    /** @param wanted the addresses in it; all where there is none */
    void run(Set<String> wanted) throws Exception {
        fill();
        visitor.logIn();
        long open = jdbc.sql("select max(id) from work_case where state = 'NEW'")
                .query(Long.class)
                .single();
        long measured = measured();
        var now = Instant.now();
        var ninetyDays = "?from=%s&to=%s".formatted(now.minus(Duration.ofDays(90)), now);
        System.out.printf(
                "%npages: 100,000 settled cases and 300 open ones, %,d interfaces, %,d guards, %,d components, %,d jobs, %,d handoffs, %,d services, %,d applications, %,d teams; median of %d each%n",
                INTERFACES, GUARDS, COMPONENTS, JOBS, HANDOFFS, SERVICES, APPLICATIONS, TEAMS, ASKED);
        var pages = Stream.of(
                        "/shift",
                        "/cases",
                        "/cases?show=settled",
                        "/cases/" + open,
                        "/messages",
                        "/messages/map",
                        "/messages/families",
                        "/guards",
                        "/estate",
                        "/estate/applications",
                        "/callouts/rules/new",
                        "/batch/jobs",
                        "/handoffs",
                        "/services",
                        "/estate/components/measured",
                        "/estate/curves/" + measured + ninetyDays,
                        "/estate/map?centre=host-1")
                .filter(path -> wanted.stream().noneMatch(one -> one.startsWith("/")) || wanted.contains(path))
                .toList();
        visitor.warm(pages);
        for (var path : pages) {
            var found = visitor.besideABarePage(path);
            System.out.printf(
                    "  %-28s %6.2f ms, a bare page %.2f ms, %s (aim 5)%n",
                    path, found.measured(), found.limit(), found.words());
        }
    }

    /** A component with 40 series over 90 days, a reading every five minutes; the id of one of them. */
    private long measured() {
        estate.add(
                "measured", "Measured", "host", estate.applications().getFirst().id());
        long component = estate.byKey("measured").orElseThrow().id();
        long feed = estate.feeds().getFirst().id();
        var names = IntStream.range(0, SERIES)
                .mapToObj(n -> new SeriesBook.Newcomer(component, "bench_" + n, Sort.GAUGE, "", "", Map.of()))
                .toList();
        series.register(names, feed);
        int count = 90 * 288;
        var ids = new long[count];
        var at = new long[count];
        var values = new double[count];
        long first = Micros.of(Instant.now()) - count * 300_000_000L;
        long id = 0;
        for (int n = 0; n < SERIES; n++) {
            id = series.find(component, "bench_" + n, Map.of()).orElseThrow().id();
            for (int i = 0; i < count; i++) {
                ids[i] = id;
                at[i] = first + i * 300_000_000L;
                values[i] = Math.rint(100 * (40 + 20 * Math.sin(i / 45.8) + i * 37 % 11)) / 100;
            }
            readings.prepare(at);
            transaction.executeWithoutResult(status -> readings.add(ids, at, values));
        }
        return id;
    }

    private void fill() throws Exception {
        // What was measured before in the same run may have raised alerts of its own.
        quiet();
        jdbc.sql("truncate case_alert, case_entry, alert, work_case, failure_fold cascade")
                .update();
        jdbc.sql(
                        """
                        insert into guard (name, active, watched, rule, fix_note, version, changed_at)
                        values ('bench', false, '{"measure":"failed_messages","kind":"interface"}',
                                '{"kind":"limit","sinceMidnightIn":"Europe/Helsinki","fold":"sum","warning":12,"critical":80,"clearMargin":0.9,"clearTime":"PT5M"}', 'Look.', 1, now())""")
                .update();
        jdbc.sql(
                        """
                        insert into work_case (state, component_id, topic, topic_since, severity, headline, opened_at, respond_by, first_seen, last_seen, failures, over_since, settled_at, settle_reason)
                        select case when n > 100000 then 'NEW' else 'SETTLED' end, (select min(id) from component) + n % 20, 'failures', now() - n * interval '1 minute',
                               case when n % 5 = 0 then 'CRITICAL' else 'WARNING' end, n || ' failed since midnight on Interface ' || n % 20,
                               now() - n * interval '1 minute', now() - n * interval '1 minute' + interval '1 hour', now() - n * interval '1 minute',
                               now() - n * interval '1 minute', n % 500,
                               null, case when n > 100000 then null else now() - n * interval '1 minute' end, case when n > 100000 then null else 'MENDED' end
                          from generate_series(1, 100300) as n""")
                .update();
        jdbc.sql(
                        """
                        insert into alert (origin_kind, origin_id, fold_key, component_id, cause_id, topic, raised_at, level, value, worst, words,
                                           worst_words, cleared_at)
                        select 'guard', (select min(id) from guard where name = 'bench'), 'b' || id, component_id, component_id, topic, opened_at,
                               severity, 11, 11, headline, headline,
                               case when state = 'SETTLED' then least(now(), opened_at + interval '30 minutes') end from work_case""")
                .update();
        jdbc.sql(
                        """
                        insert into case_alert (alert_id, case_id)
                        select id, id from alert""")
                .update();
        jdbc.sql(
                        """
                        insert into case_entry (case_id, at, kind, words)
                        select c.id, c.opened_at + n * interval '1 minute', 'alert', 'rose and fell' from work_case c, generate_series(1, 5) as n""")
                .update();
        jdbc.sql(
                        "update work_case set opened_at = now() - interval '1 hour', first_seen = now() - interval '1 hour', last_seen = now() where state = 'NEW'")
                .update();
        interfaces();
        guardsAndComponents();
        troubleEverywhere();
        jobs();
        handoffs();
        services();
        jdbc.sql("analyze").update();
    }

    private void guardsAndComponents() {
        jdbc.sql(
                        """
                        insert into team (key, name, mail)
                        select 'bench-' || n, 'Team ' || n, 'team-' || n || '@sundrava.example' from generate_series(1, :teams) as n""")
                .param("teams", TEAMS)
                .update();
        jdbc.sql(
                        """
                        insert into guard (name, active, watched, rule, fix_note, version, changed_at)
                        select 'bench ' || n, false, watched, rule, fix_note, 1, now()
                          from guard, generate_series(1, :guards) as n where name = 'bench'""")
                .param("guards", GUARDS)
                .update();
        jdbc.sql(
                        """
                        insert into application (key, name, tier, environment, team_id)
                        select 'bench-' || n, 'Application ' || n, 1 + n % 4, 'production', (select min(id) from team)
                          from generate_series(1, :applications) as n""")
                .param("applications", APPLICATIONS)
                .update();
        jdbc.sql(
                        """
                        insert into component (key, name, kind, application_id, first_seen)
                        select 'host-' || n, 'Host ' || n, 'host', (select id from application where key = 'bench-' || 1 + n % :applications), now()
                          from generate_series(1, :components) as n""")
                .param("applications", APPLICATIONS)
                .param("components", COMPONENTS)
                .update();
    }

    /** What is open is spread over the applications. */
    private void troubleEverywhere() {
        jdbc.sql(
                        """
                        update work_case w set component_id = c.id from component c
                         where w.state = 'NEW' and c.key = 'host-' || 1 + w.id % :applications""")
                .param("applications", APPLICATIONS)
                .update();
        jdbc.sql(
                        """
                        update alert a set component_id = w.component_id, cause_id = w.component_id
                          from case_alert l join work_case w on w.id = l.case_id
                         where l.alert_id = a.id and w.state = 'NEW'""")
                .update();
    }

    /** As they come to be known: by their first runs. */
    private void jobs() throws Exception {
        var now = Instant.now();
        var events = IntStream.range(0, JOBS)
                .mapToObj(n ->
                        """
                        {"specversion":"1.0","id":"run-%d","source":"/bench","type":"app.morvet.run.finished","subject":"job-%d","time":"%s",
                         "data":{"run":"1","started":"%s","exitCode":0}}"""
                                .formatted(n, n, now.minusSeconds(n), now.minusSeconds(n + 60)))
                .collect(Collectors.joining(",", "[", "]"));
        visitor.post("/api/v1/events", "application/cloudevents-batch+json", events);
    }

    /** Two weeks of days on which each was stopped for a while; every hundredth is now. */
    private void services() throws Exception {
        var first = Instant.now().minusSeconds(14 * 86_400L);
        for (int day = 0; day < 14; day++) {
            var at = first.plusSeconds(day * 86_400L);
            int today = day;
            post(n -> state(n, "stopped", at.plusSeconds(n)));
            post(n -> state(n, today == 13 && n % 100 == 0 ? "stopped" : "running", at.plusSeconds(n + 900L)));
        }
        // Heard just now, so that none is missed.
        post(n -> state(n, n % 100 == 0 ? "stopped" : "running", Instant.now().minusSeconds(1)));
        // With the same limits as the others, and active, so that words are good and bad.
        jdbc.sql(
                        """
                        insert into guard (name, active, watched, rule, fix_note, version, changed_at)
                        values ('bench services', true, '{"measure":"service","kind":"service"}',
                                '{"kind":"state","criticalWhen":{"words":["stopped"],"for":"PT2M"},"clearMargin":1,"clearTime":"PT0S"}', '', 1, now())""")
                .update();
    }

    private void post(IntFunction<String> one) throws Exception {
        visitor.post(
                "/api/v1/readings",
                "application/json",
                IntStream.range(0, SERVICES).mapToObj(one).collect(Collectors.joining(",", "[", "]")));
    }

    private static String state(int service, String state, Instant at) {
        return """
                {"component":"service-%d","kind":"service","measure":"service","state":"%s","words":["running","stopped"],"at":"%s"}"""
                .formatted(service, state, at);
    }

    private void handoffs() {
        jdbc.sql(
                        """
                        insert into outside_connection (sort, key, name, url, headers, secret, settings)
                        values ('desk', 'bench', 'Bench desk', 'http://localhost', '', '', '{"pollSeconds": "3600"}')""")
                .update();
        jdbc.sql(
                        """
                        insert into handoff (id, case_id, team_id, connection_id, title, story, body, state, ticket, made_at, made_by, changed_at)
                        select gen_random_uuid(), (select min(id) from work_case) + n, (select min(id) from team),
                               (select id from outside_connection where key = 'bench'), 'Handoff ' || n, 'story', '{}',
                               case when n <= 300 then 'SENT' else 'DONE' end, 'T-' || n, now() - n * interval '1 minute',
                               (select min(id) from person), now() - n * interval '1 minute'
                          from generate_series(1, :handoffs) as n""")
                .param("handoffs", HANDOFFS)
                .update();
    }

    /** Four weeks of hours of each interface, so that all of them have something usual; every tenth has something open. */
    private void interfaces() {
        long application = estate.applications().getFirst().id();
        for (int i = 20; i < INTERFACES; i++)
            estate.add("interface-" + i, "Interface " + i, Estate.INTERFACE, application);
        for (int i = 0; i < INTERFACES; i++)
            ends.set(
                    estate.byKey("interface-" + i).orElseThrow().id(),
                    new InterfaceEnds.Ends("party " + i % 60, "party " + (60 + i % 45)));
        jdbc.sql(
                        """
                        insert into interface_hour (component_id, hour, delivered, failed, delays, last_carried)
                        select c.id, date_trunc('hour', now()) - h * interval '1 hour', 40 + h % 24, 0,
                               (select array_agg(case when s = 20 then 40 else 0 end) from generate_series(0, 20) as s), now()
                          from component c, generate_series(0, 671) as h where c.kind = 'interface'
                            on conflict do nothing""")
                .update();
        jdbc.sql(
                        """
                        insert into interface_usual (component_id, by_hour, p95, made_at)
                        select c.id, (select array_agg(50.0) from generate_series(1, 168)), 1.2, now()
                          from component c where c.kind = 'interface' on conflict do nothing""")
                .update();
    }

    /** Until nothing of what was taken in before waits to be told or indexed. */
    private void quiet() {
        var waiting = jdbc.sql("select (select count(*) from untold_failure) + (select count(*) from unread_failure)")
                .query(Long.class);
        while (waiting.single() > 0) {
            try {
                Thread.sleep(500);
            } catch (InterruptedException stop) {
                Thread.currentThread().interrupt();
                return;
            }
        }
    }
}
