package app.morvet.views.upkeep;

import app.morvet.core.estate.ComponentKey;
import app.morvet.core.estate.Tier;
import app.morvet.core.guard.Spans;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Outgoing;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.Groups;
import java.time.Duration;
import java.util.HashSet;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Names and assigns what is in the estate; each change is in the audit record. */
@Service
@Transactional
class Upkeep {
    private static final int LONGEST = 200;
    private static final int LEAST_CADENCE = 10;

    private final Estate estate;
    private final Groups groups;
    private final Outgoing outgoing;
    private final Audit audit;

    Upkeep(Estate estate, Groups groups, Outgoing outgoing, Audit audit) {
        this.estate = estate;
        this.groups = groups;
        this.outgoing = outgoing;
        this.audit = audit;
    }

    /** @throws IllegalArgumentException that says what cannot be, in a sentence */
    void change(Estate.Component next, Person by) {
        check(next);
        var before = estate.component(next.id());
        if (before.equals(next)) return;
        estate.change(next);
        audit.record(by, "component changed", "component " + next.key(), words(before), words(next));
    }

    void add(Estate.Component fresh, Person by) {
        name(fresh.name());
        estate.add(fresh.key(), fresh.name(), fresh.kind(), fresh.applicationId());
        var on = fresh.standsOn();
        if (on != null) estate.standsOn(fresh.key(), estate.component(on).key());
        audit.record(by, "component added", "component " + fresh.key(), null, words(fresh));
    }

    private void check(Estate.Component next) {
        name(next.name());
        if (!Estate.KINDS.contains(next.kind()))
            throw new IllegalArgumentException("There is no kind \"" + next.kind() + "\".");
        var application = next.applicationId();
        if (application != null && estate.applications().stream().noneMatch(one -> one.id() == application))
            throw new IllegalArgumentException("There is no such application.");
        var seen = new HashSet<Long>();
        for (@Nullable Long on = next.standsOn();
                on != null;
                on = estate.component(on).standsOn()) {
            if (on == next.id()) throw new IllegalArgumentException("It cannot stand on what stands on it.");
            if (!seen.add(on)) break;
        }
    }

    /** Makes or changes a group. */
    void keep(Groups.Group group, Person by) {
        var before = groups.find(group.id());
        var was = before.map(this::words).orElse(null);
        groups.keep(group);
        audit.record(by, was == null ? "group made" : "group changed", "group " + group.name(), was, words(group));
    }

    void deleteGroup(long id, Person by) {
        var before = groups.find(id);
        if (before.isEmpty()) return;
        var was = words(before.get());
        groups.delete(id);
        audit.record(by, "group deleted", "group " + before.get().name(), was, null);
    }

    private String words(Groups.Group group) {
        return group.name() + ": " + groups.words(group)
                + (group.contact().isEmpty() ? "" : "; ask " + group.contact());
    }

    private static String key(String name) {
        var key = ComponentKey.of(name);
        if (key.isEmpty())
            throw new IllegalArgumentException("A name needs a letter from a to z or a figure, by which it is known.");
        return key;
    }

    private static void name(String name) {
        if (name.isBlank()) throw new IllegalArgumentException("A name is needed.");
        if (name.length() > LONGEST) throw new IllegalArgumentException("A name has at most 200 characters.");
    }

    /** @throws IllegalArgumentException where there is no such environment */
    static void environment(String environment) {
        if (!Estate.ENVIRONMENTS.contains(environment))
            throw new IllegalArgumentException(
                    "The environment is production, rehearsal or development, was \"" + environment + "\".");
    }

    void change(Estate.Application next, Person by) {
        name(next.name());
        environment(next.environment());
        if (estate.team(next.teamId()).isEmpty()) throw new IllegalArgumentException("There is no such team.");
        var before = estate.applications().stream()
                .filter(one -> one.id() == next.id())
                .findFirst();
        if (before.isEmpty()) throw new IllegalArgumentException("There is no such application.");
        if (before.get().equals(next)) return;
        estate.change(next);
        audit.record(by, "application changed", "application " + next.key(), words(before.get()), words(next));
    }

    /** Makes an application, known by its name in lower case with dashes. */
    void add(String name, Tier tier, String environment, Estate.Team team, Person by) {
        var key = key(name);
        if (estate.application(key).isPresent())
            throw new IllegalArgumentException("There is an application of that name already.");
        add(key, name, tier, environment, team, by);
    }

    void add(String key, String name, Tier tier, String environment, Estate.Team team, Person by) {
        name(name);
        environment(environment);
        long id = estate.addApplication(key, name, tier.number(), environment, team.id());
        audit.record(
                by,
                "application added",
                "application " + key,
                null,
                words(new Estate.Application(id, key, name, tier, environment, team.id())));
    }

    /**
     * @param seconds in which its readings are promised
     * @param url     of the page that is fetched; empty where it sends by itself
     */
    void addFeed(String name, String seconds, String url, Person by) {
        name(name);
        if (!seconds.matches("\\d{1,6}") || Integer.parseInt(seconds) < LEAST_CADENCE)
            throw new IllegalArgumentException(
                    "The cadence is a whole number of seconds, %d or more.".formatted(LEAST_CADENCE));
        var key = key(name);
        var cadence = Duration.ofSeconds(Integer.parseInt(seconds));
        if (url.isEmpty()) estate.addFeed(key, name, cadence);
        else {
            outgoing.check(url);
            estate.addFetchedFeed(key, name, cadence, url);
        }
        audit.record(
                by,
                "feed added",
                "feed " + name,
                null,
                (url.isEmpty() ? "sends by itself" : "fetched from " + url) + ", every " + Spans.words(cadence));
    }

    String words(Estate.Component one) {
        var application = Optional.ofNullable(one.applicationId())
                .flatMap(id -> estate.applications().stream()
                        .filter(it -> it.id() == id)
                        .findFirst())
                .map(Estate.Application::name)
                .orElse(EstateSearch.UNASSIGNED);
        var on = one.standsOn();
        return "%s, %s, %s%s"
                .formatted(
                        one.name(),
                        one.kind(),
                        application,
                        on == null ? "" : ", stands on " + estate.component(on).name());
    }

    String words(Estate.Application one) {
        return "%s, tier %d, %s, owned by %s"
                .formatted(
                        one.name(),
                        one.tier().number(),
                        one.environment(),
                        estate.team(one.teamId()).map(Estate.Team::name).orElse("nobody"));
    }
}
