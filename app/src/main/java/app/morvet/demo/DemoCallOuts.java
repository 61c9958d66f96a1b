package app.morvet.demo;

import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.CallOutRule;
import app.morvet.core.callouts.Happening;
import app.morvet.core.callouts.Step;
import app.morvet.core.callouts.Way;
import app.morvet.core.callouts.Whom;
import app.morvet.core.estate.Scope;
import app.morvet.ground.connections.Connection;
import app.morvet.ground.connections.Connections;
import app.morvet.work.callouts.CallOutRules;
import app.morvet.work.channels.Channels;
import app.morvet.work.channels.WebCalls;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;

/** By what people are told besides mail, and who is told of what. */
@Component
@Profile("demo")
class DemoCallOuts {
    private static final List<Way> TEXT_FIRST = List.of(Way.TEXT, Way.MAIL);
    private static final List<Way> MAIL_FIRST = List.of(Way.MAIL, Way.TEXT);

    private final Channels channels;
    private final Connections connections;
    private final CallOutRules rules;
    private final DemoSettings demo;

    DemoCallOuts(Channels channels, Connections connections, CallOutRules rules, DemoSettings demo) {
        this.channels = channels;
        this.connections = connections;
        this.rules = rules;
        this.demo = demo;
    }

    void add() {
        channels.text(
                "gateway",
                "Text gateway",
                demo.desk(),
                "/phones/api/messages",
                "{\"to\": \"{{to}}\", \"text\": \"{{text}}\"}");
        channels.web(
                "room",
                "The room of the shift",
                demo.desk(),
                "",
                Map.of("path", "/rooms/api/shift", "template", "{\"text\": \"{{title}}\\n{{link}}\"}"));
        channels.web(
                "paging",
                "The ferry bridge",
                demo.desk(),
                demo.deskSecret(),
                Map.of(
                        "path", "/paging/api/items",
                        "idPath", "$.id",
                        "laterPath", "/paging/api/items/{{id}}",
                        "laterMethod", "PUT",
                        "template", "{\"state\": \"{{state}}\", \"summary\": \"{{title}}\", \"link\": \"{{link}}\"}"));
        add(
                "The room of the shift",
                Happening.OPENED,
                Scope.ALL,
                null,
                true,
                new Step(Duration.ZERO, outside("room"), List.of()));
        add(
                "Tier 1, day and night",
                Happening.OPENED,
                new Scope("", "", 1, "production", "", "", "", false),
                Duration.ofMinutes(30),
                false,
                new Step(Duration.ZERO, new Whom.OnDuty(Whom.OWNER, 0), TEXT_FIRST),
                new Step(Duration.ofMinutes(10), new Whom.OnDuty(Whom.OWNER, 1), TEXT_FIRST),
                new Step(Duration.ofMinutes(15), new Whom.Role("LEAD"), TEXT_FIRST),
                new Step(Duration.ofMinutes(5), outside("paging"), List.of()));
        add(
                "What came back",
                Happening.RETURNED,
                Scope.ALL,
                null,
                false,
                new Step(Duration.ZERO, new Whom.Role("LEAD"), MAIL_FIRST));
        add(
                "What is changed on what matters most",
                Happening.CHANGED,
                new Scope("", "", 1, "production", "", "", "", false),
                null,
                true,
                new Step(Duration.ZERO, outside("room"), List.of()));
        add(
                "What does not get through",
                Happening.UNDELIVERED,
                Scope.ALL,
                null,
                true,
                new Step(Duration.ZERO, new Whom.Role("ADMIN"), MAIL_FIRST));
        var last = rules.all().getLast();
        rules.keep(
                new CallOutRules.Stored(
                        last.id(),
                        new CallOutRule(
                                last.rule().name(),
                                Happening.OPENED,
                                Severity.CRITICAL,
                                Scope.ALL,
                                null,
                                List.of(
                                        new Step(Duration.ZERO, new Whom.OnDuty(Whom.OWNER, 0), MAIL_FIRST),
                                        new Step(Duration.ofMinutes(20), new Whom.OnDuty(Whom.OWNER, 1), MAIL_FIRST),
                                        new Step(Duration.ofMinutes(20), new Whom.Team(Whom.OWNER), List.of(Way.MAIL))),
                                null,
                                true,
                                false),
                        true,
                        last.version()),
                null);
    }

    private Whom outside(String key) {
        return new Whom.Outside(
                connections.byKey(WebCalls.SORT, key).map(Connection::id).orElseThrow());
    }

    private void add(
            String name, Happening when, Scope scope, @Nullable Duration again, boolean goesOn, Step... steps) {
        var from = when == Happening.RETURNED ? Severity.NOTICE : Severity.CRITICAL;
        var rule =
                new CallOutRule(name, when, from, scope, null, List.of(steps), again, when == Happening.OPENED, goesOn);
        rules.keep(new CallOutRules.Stored(0, rule, false, 0), null);
    }
}
