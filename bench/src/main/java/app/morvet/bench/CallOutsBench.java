package app.morvet.bench;

import app.morvet.core.callouts.Way;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import app.morvet.work.callouts.CallOutRules;
import app.morvet.work.callouts.Delivery;
import app.morvet.work.callouts.Mails;
import app.morvet.work.channels.Channels;
import app.morvet.work.channels.WebCalls;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Executors;
import java.util.concurrent.Semaphore;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.transaction.support.TransactionTemplate;

/** 1,000 call-outs at once through one node, each put down, sent, recorded and told of, beside a bare loop of the same calls. */
final class CallOutsBench {
    private static final int CALLS = 1_000;
    /** As many of one kind of errand are under way at once. */
    private static final int AT_ONCE = 8;

    private static final String BODY = "{\"text\":\"Critical: it is stopped\"}";

    private final Mails mails;
    private final JdbcClient jdbc;
    private final TransactionTemplate transaction;
    private final HttpClient client = HttpClient.newHttpClient();
    private final URI address;
    private final Delivery.To to;
    private final Delivery.Of of;

    CallOutsBench(ConfigurableApplicationContext morvet, ChecksBench.Target target) {
        this.mails = morvet.getBean(Mails.class);
        this.jdbc = morvet.getBean(JdbcClient.class);
        this.transaction = morvet.getBean(TransactionTemplate.class);
        this.address = URI.create("http://" + target.host(1) + "/room");
        morvet.getBean(Channels.class)
                .web(
                        "bench",
                        "Room",
                        "http://" + target.host(1),
                        "",
                        Map.of("path", "/room", "template", "{\"text\": \"{{title}}\"}"));
        long room = morvet.getBean(Connections.class)
                .byKey(WebCalls.SORT, "bench")
                .map(Connection::id)
                .orElseThrow();
        this.to = new Delivery.To(null, null, new Delivery.Hop(Way.WEB, "Room", room), List.of());
        this.of = new Delivery.Of.Rule(
                morvet.getBean(CallOutRules.class).all().getLast().id());
    }

    void run() throws Exception {
        var found = InTurn.of(1, () -> perSecond(this::told), () -> perSecond(this::bare));
        System.out.printf(
                "%ncall-outs: %,d at once: %,.0f a second, a bare loop of the same calls %,.0f, %s; %,.0f a minute%n",
                CALLS, found.measured(), found.limit(), found.words(), 60 * found.measured());
    }

    private interface Work {
        void run() throws Exception;
    }

    private static double perSecond(Work work) throws Exception {
        long begin = System.nanoTime();
        work.run();
        return CALLS / ((System.nanoTime() - begin) / 1e9);
    }

    private void told() throws InterruptedException {
        var now = Instant.now();
        transaction.executeWithoutResult(status -> {
            for (int i = 0; i < CALLS; i++)
                mails.post(Delivery.fresh(
                        of, to, null, Delivery.About.TEST, null, "Critical: it is stopped", "Body", now, now));
        });
        while (jdbc.sql("select count(*) from delivery where state <> 'SENT' and way = 'WEB'")
                        .query(Long.class)
                        .single()
                > 0) Thread.sleep(10);
    }

    private void bare() throws InterruptedException {
        var places = new Semaphore(AT_ONCE);
        try (var threads = Executors.newVirtualThreadPerTaskExecutor()) {
            for (int i = 0; i < CALLS; i++) {
                places.acquire();
                threads.submit(() -> {
                    try {
                        var request = HttpRequest.newBuilder(address)
                                .header("Content-Type", "application/json")
                                .POST(HttpRequest.BodyPublishers.ofString(BODY))
                                .build();
                        return client.send(request, HttpResponse.BodyHandlers.ofString())
                                .body();
                    } finally {
                        places.release();
                    }
                });
            }
        }
    }
}
