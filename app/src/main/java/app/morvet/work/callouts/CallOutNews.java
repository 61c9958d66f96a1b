package app.morvet.work.callouts;

import app.morvet.alerting.windows.WindowMoved;
import app.morvet.alerting.windows.Windows;
import app.morvet.core.alert.Severity;
import app.morvet.core.callouts.CallOutRule;
import app.morvet.core.callouts.Happening;
import app.morvet.core.callouts.Wishes;
import app.morvet.core.estate.Scope;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.OwnZones;
import app.morvet.ground.base.MorvetSettings;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.sources.changes.Changes;
import app.morvet.sources.vendors.Vendors;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What rules tell of that is no case: all whom a rule names are told at once, and once. */
@Component
class CallOutNews {
    private static final int NAMED = 12;

    private final CallOutRules rules;
    private final Recipients recipients;
    private final WishStore wishes;
    private final OwnZones zones;
    private final Mails mails;
    private final Windows windows;
    private final Estate estate;
    private final MorvetSettings settings;
    private final Times times;

    CallOutNews(
            CallOutRules rules,
            Recipients recipients,
            WishStore wishes,
            OwnZones zones,
            Mails mails,
            Windows windows,
            Estate estate,
            MorvetSettings settings,
            Times times) {
        this.rules = rules;
        this.recipients = recipients;
        this.wishes = wishes;
        this.zones = zones;
        this.mails = mails;
        this.windows = windows;
        this.estate = estate;
        this.settings = settings;
        this.times = times;
    }

    /** Most have no rule of the sort, and nothing else is asked for then. */
    private boolean isWanted(Happening what) {
        return rules.all().stream().anyMatch(one -> one.rule().when() == what);
    }

    private List<Estate.Component> under(Scope scope) {
        return estate.components().stream()
                .filter(one -> scope.takes(windows.factsOf(one)))
                .toList();
    }

    @EventListener
    @Transactional
    public void on(WindowMoved moved) {
        if (!isWanted(Happening.WINDOW)) return;
        var window = moved.window().window();
        boolean begins = moved instanceof WindowMoved.Begun;
        tell(
                Happening.WINDOW,
                under(window.scope()),
                "Window \"%s\" %s"
                        .formatted(
                                window.name(),
                                begins
                                        ? "has begun, until "
                                                + times.of(moved.time().to())
                                        : "is over"),
                windows.sentence(window),
                "/windows/" + moved.window().id());
    }

    @EventListener
    @Transactional
    public void on(Vendors.BulletinMoved moved) {
        if (!isWanted(Happening.BULLETIN)) return;
        var bulletin = moved.bulletin();
        var instance = estate.component(bulletin.component());
        tell(
                Happening.BULLETIN,
                Stream.concat(Stream.of(instance), estate.needing(instance.id()).stream())
                        .toList(),
                "%s: %s".formatted(instance.name(), bulletin.said().title()),
                bulletin.said().text(),
                "/vendors/" + instance.key());
    }

    @EventListener
    @Transactional
    public void on(Changes.ChangeSeen seen) {
        if (!isWanted(Happening.CHANGED)) return;
        var one = estate.component(seen.component());
        tell(
                Happening.CHANGED,
                List.of(one),
                "%s: %s".formatted(one.name(), seen.change().words()),
                seen.change().by().isEmpty() ? "" : "By " + seen.change().by() + ".",
                "/estate/components/" + one.key());
    }

    @EventListener
    @Transactional
    public void on(Estate.Appeared appeared) {
        if (!isWanted(Happening.NEW)) return;
        var fresh = appeared.keys().stream()
                .flatMap(key -> estate.byKey(key).stream())
                .toList();
        var names = fresh.stream().limit(NAMED).map(Estate.Component::name).toList();
        tell(
                Happening.NEW,
                fresh,
                fresh.size() == 1 ? "New in the estate: " + names.getFirst() : fresh.size() + " are new in the estate",
                String.join(", ", names) + (fresh.size() > NAMED ? " and %d more".formatted(fresh.size() - NAMED) : ""),
                "/estate");
    }

    @EventListener
    @Transactional
    public void on(Audit.Recorded recorded) {
        if (!recorded.by().may("SETUP") || !isWanted(Happening.SETUP)) return;
        tell(
                Happening.SETUP,
                List.of(),
                "%s, by %s".formatted(recorded.what(), recorded.by().name()),
                recorded.subject(),
                "/shift/log");
    }

    /** What is told of that does not get through either is told no further. */
    void undelivered(Delivery delivery, String why) {
        boolean tells = delivery.about() != Delivery.About.NEWS && delivery.about() != Delivery.About.SIGN;
        if (!tells || !isWanted(Happening.UNDELIVERED)) return;
        tell(
                Happening.UNDELIVERED,
                List.of(),
                "The %s to %s could not be delivered"
                        .formatted(delivery.to().hop().way().words(), delivery.recipient()),
                "%s%n%n%s".formatted(delivery.subject(), why),
                "/callouts?show=waiting");
    }

    private void tell(Happening what, Collection<Estate.Component> about, String subject, String body, String path) {
        var now = times.now();
        var facts = about.stream().map(windows::factsOf).toList();
        var taking = CallOutRule.taking(
                rules.all(),
                CallOutRules.Stored::rule,
                new CallOutRule.Occasion(what, Severity.NOTICE, null, facts, now));
        if (taking.isEmpty()) return;
        var known = recipients.now();
        var owner = owner(about);
        var text = "%s.%n%n%s%n%nEverything about it: %s%n".formatted(subject, body, settings.link(path));
        for (var rule : taking) {
            var told = new ArrayList<String>();
            for (var step : rule.rule().steps())
                for (var one : known.of(step, owner, now).reached()) {
                    if (told.contains(one.who())) continue;
                    told.add(one.who());
                    post(what, rule, one.to(), subject, text, now);
                }
        }
    }

    /** Whose it is: of several teams nobody's, so a rule over many names who is told. */
    private Estate.@Nullable Team owner(Collection<Estate.Component> about) {
        var teams = about.stream()
                .map(one -> estate.ownerOf(one).orElse(null))
                .filter(Objects::nonNull)
                .distinct()
                .toList();
        return teams.size() == 1 ? teams.getFirst() : null;
    }

    private void post(
            Happening what, CallOutRules.Stored rule, Delivery.To to, String subject, String text, Instant now) {
        var person = to.person();
        var wishes = person == null ? Wishes.NONE : this.wishes.of(person);
        if (!wishes.hearOf(what)) return;
        var news = Delivery.fresh(
                new Delivery.Of.Rule(rule.id()), to, null, Delivery.About.NEWS, null, subject, text, now, now);
        var wished = person == null ? now : wishes.due(Severity.NOTICE, now, zones.clockOf(person));
        if (wished.isAfter(now)) mails.postLater(news, wished);
        else mails.post(news);
    }
}
