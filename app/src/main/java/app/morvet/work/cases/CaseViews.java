package app.morvet.work.cases;

import app.morvet.alerting.alerts.Alert;
import app.morvet.alerting.alerts.Origins;
import app.morvet.core.alert.Severity;
import app.morvet.core.cases.SettleReason;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.MadeLazily;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import app.morvet.sources.messages.Families;
import app.morvet.sources.messages.MessageId;
import app.morvet.sources.messages.MessageStore;
import app.morvet.sources.messages.MessageViews;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Cases in the shape that pages want them. */
@Component
public class CaseViews {
    private static final int MESSAGES_SHOWN = 12;
    private static final int FAMILIES_SHOWN = 5;

    /** The lists of cases, by the name that stands in the address. */
    public enum Show {
        OPEN("Open"),
        MINE("Mine"),
        NOBODYS("Nobody's"),
        LATE("Late"),
        RETURNED("Returned"),
        QUIET("Quiet"),
        SETTLED("Settled");

        private final String words;

        Show(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }

        public String key() {
            return name().toLowerCase(java.util.Locale.ROOT);
        }

        static Show of(String key) {
            for (var show : values()) if (show.key().equals(key)) return show;
            return OPEN;
        }
    }

    /**
     * A row of the list.
     *
     * @param mark    relief mark
     * @param urgency the sum, and {@code parts} what it is made of
     * @param place   where it goes on: application, tier, owning team
     */
    public record Row(
            long id,
            String mark,
            String severity,
            String headline,
            String state,
            String who,
            String place,
            int urgency,
            String parts,
            String seen,
            boolean over,
            String returnReason,
            String quiet,
            int version) {}

    record AlertView(
            long alert,
            String name,
            String link,
            String kind,
            String sentence,
            String mark,
            String level,
            String value,
            String worst,
            String raised,
            String cleared,
            String limits,
            boolean drawn) {}

    record EntryView(String at, String who, String words, String kind) {}

    record Dossier(
            Row row,
            String application,
            int tier,
            String environment,
            String owner,
            String componentName,
            String componentKey,
            boolean carriesMessages,
            String mendLink,
            String opened,
            List<CaseFacts.Fact> facts,
            long failures,
            String respondBy,
            boolean late,
            String overSince,
            boolean settled,
            String settledAs,
            List<AlertView> alerts,
            List<CaseSteps.Fix> fixes,
            List<Families.Share> families,
            List<MessageViews.Row> messages,
            List<EntryView> log,
            List<DossierPart.Part> parts,
            String liveTopics) {}

    private final CaseStore store;
    private final Estate estate;
    private final CaseAlerts caseAlerts;
    private final Origins origins;
    private final People people;
    private final MessageStore messages;
    private final MessageViews messageViews;
    private final Families families;
    private final Times times;
    private final CaseSteps steps;
    private final CaseOwners owners;
    private final CaseFacts facts;
    private final List<DossierPart> dossierParts;

    CaseViews(
            CaseStore store,
            Estate estate,
            CaseAlerts caseAlerts,
            Origins origins,
            People people,
            MessageStore messages,
            MessageViews messageViews,
            Families families,
            Times times,
            CaseSteps steps,
            CaseOwners owners,
            CaseFacts facts,
            List<DossierPart> dossierParts) {
        this.store = store;
        this.estate = estate;
        this.caseAlerts = caseAlerts;
        this.origins = origins;
        this.people = people;
        this.messages = messages;
        this.messageViews = messageViews;
        this.families = families;
        this.times = times;
        this.steps = steps;
        this.owners = owners;
        this.facts = facts;
        this.dossierParts = dossierParts;
    }

    /** Open cases as a list wants them, the most urgent first, then the oldest. */
    public List<Row> open(Show show, Person reader, @Nullable Severity only, String application) {
        return open(show, reader, only, application, CaseOrder.URGENT);
    }

    List<Row> open(Show show, Person reader, @Nullable Severity only, String application, CaseOrder order) {
        var now = times.now();
        var open = caseAlerts.openTrouble();
        var some = open.cases().stream()
                .filter(one -> lists(show, one, reader, now))
                .filter(one -> only == null || (one.severity() == only && one.overSince() == null))
                .filter(one -> application.isEmpty()
                        || estate.applicationOf(estate.component(one.component()))
                                .filter(it -> it.key().equals(application))
                                .isPresent())
                .toList();
        return rows(some, open.touched(), order);
    }

    /** Whether a list of open cases has one; a quiet one waits in its own list, and with whoever has it. */
    public boolean lists(Show show, WorkCase one, Person reader, Instant now) {
        return switch (show) {
            case MINE -> Long.valueOf(reader.id()).equals(one.progress().takenBy());
            case RETURNED -> one.progress().returned();
            case QUIET -> one.isQuiet(now);
            case NOBODYS -> !one.isQuiet(now) && one.nobodys();
            case LATE -> !one.isQuiet(now) && one.late(now);
            case OPEN, SETTLED -> !one.isQuiet(now);
        };
    }

    /** Some of what is open, the most urgent first. */
    public List<Row> urgent(List<WorkCase> some, OpenTrouble open) {
        return rows(some, open.touched(), CaseOrder.URGENT);
    }

    /** In their order; each row is made when it is looked at, since a page shows a few of them. */
    private List<Row> rows(List<WorkCase> open, Map<Long, Set<Long>> touched, CaseOrder order) {
        var now = times.now();
        var names = people.names();
        var ranked = open.stream()
                .map(one -> Ranked.of(one, touched.getOrDefault(one.id(), Set.of()), now, estate))
                .sorted(order.by())
                .toList();
        return new MadeLazily<>(ranked, one -> row(one, now, names));
    }

    List<WorkCase> settled(Instant before, long beforeId, int size) {
        return store.settled(before, beforeId, size);
    }

    List<Row> rows(List<WorkCase> cases) {
        var now = times.now();
        var names = people.names();
        return cases.stream()
                .map(one -> row(Ranked.of(one, Set.of(), now, estate), now, names))
                .toList();
    }

    private Row row(Ranked ranked, Instant now, Map<Long, String> names) {
        var one = ranked.of();
        var runsIn = estate.applicationOf(estate.component(one.component()));
        var standing = one.progress();
        var taker = standing.takenBy();
        var place = runsIn.map(found -> found.name() + " · tier " + found.tier().number())
                .orElse("not assigned");
        boolean over = one.overSince() != null;
        return new Row(
                one.id(),
                one.settled()
                        ? "steady"
                        : one.isQuiet(now)
                                ? "held"
                                : over ? "steady" : one.severity().word(),
                one.severity().word(),
                one.headline(),
                standing.state().words(),
                taker == null ? "" : Objects.requireNonNullElse(names.get(taker), ""),
                place,
                one.settled() ? 0 : ranked.urgency(),
                one.settled() ? "" : ranked.urgent().words(ranked.facts()),
                one.settled() ? times.of(standing.settledAt()) : times.of(one.lastSeen()),
                over,
                standing.returnReason(),
                one.isQuiet(now) ? times.of(standing.quietUntil()) : "",
                one.version());
    }

    /**
     * Of the version that its log tells of: where somebody did something between the reading of the two, it is drawn anew, since whoever saw
     * in the log what was done must not be told of it as something new when they act.
     */
    Dossier dossier(WorkCase one) {
        var drawn = dossier(one, true);
        var now = store.byId(one.id()).orElse(one);
        return now.version() == one.version() ? drawn : dossier(now);
    }

    /** The same without what stands under its title. */
    Dossier brief(WorkCase one) {
        return dossier(one, false);
    }

    private Dossier dossier(WorkCase one, boolean whole) {
        var now = times.now();
        var names = people.names();
        var subject = estate.component(one.component());
        var runsIn = estate.applicationOf(subject);
        var alerts = caseAlerts.told(one);
        var work = one.progress();
        var reason = work.settleReason();
        return new Dossier(
                row(Ranked.of(one, touched(alerts), now, estate), now, names),
                runsIn.map(Estate.Application::name).orElse("not assigned"),
                estate.tierOf(subject).number(),
                runsIn.map(Estate.Application::environment).orElse(""),
                owners.of(one).map(Estate.Team::name).orElse("nobody yet"),
                subject.name(),
                subject.key(),
                subject.kind().equals(Estate.INTERFACE),
                mendLink(one, subject),
                times.of(one.openedAt()),
                facts.of(one, times::of),
                one.failures(),
                one.nobodys() ? times.of(one.respondBy()) : "",
                one.late(now),
                times.of(one.overSince()),
                one.settled(),
                reason == null ? "" : reason.words() + ", " + times.of(work.settledAt()),
                alerts.stream().map(alert -> alertView(alert, one)).toList(),
                whole ? steps.of(one) : List.of(),
                whole && subject.kind().equals(Estate.INTERFACE)
                        ? families.shares(one.scope(), one.firstSeen(), end(one), FAMILIES_SHOWN)
                        : List.of(),
                whole ? failed(one) : List.of(),
                whole
                        ? store.entries(one.id()).stream()
                                .map(entry -> entryView(entry, names))
                                .toList()
                        : List.of(),
                whole
                        ? dossierParts.stream()
                                .map(part -> part.of(one))
                                .flatMap(Optional::stream)
                                .toList()
                        : List.of(),
                liveTopics());
    }

    private String liveTopics() {
        return Stream.concat(Stream.of("cases"), dossierParts.stream().map(DossierPart::liveTopic))
                .filter(topic -> !topic.isEmpty())
                .distinct()
                .collect(Collectors.joining(" "));
    }

    private static Set<Long> touched(List<Alert> alerts) {
        return alerts.stream()
                .filter(Alert::up)
                .map(alert -> alert.about().component())
                .collect(Collectors.toSet());
    }

    /** Where what is open of it is dealt with or sent again. */
    private static String mendLink(WorkCase one, Estate.Component subject) {
        var scope = one.scope();
        if (scope.rule() != null) return "/messages/mend?state=open&rule=" + scope.rule();
        var where = scope.component() == null ? "" : "&interface=" + subject.key();
        return "/messages/mend?state=open" + where + (scope.family() == null ? "" : "&family=" + scope.family());
    }

    /** The span in which a case's failures lie. */
    static Instant end(WorkCase one) {
        return one.overSince() != null ? one.overSince() : one.lastSeen();
    }

    private List<MessageViews.Row> failed(WorkCase one) {
        return messages.page(one.scope(), one.firstSeen(), end(one), MessageId.NEWEST, MESSAGES_SHOWN).stream()
                .map(messageViews::row)
                .toList();
    }

    private AlertView alertView(Alert alert, WorkCase one) {
        var kind = origins.of(alert);
        return new AlertView(
                alert.id(),
                kind.name(alert) + elsewhere(alert, one),
                kind.link(alert),
                kind.noun(),
                kind.sentence(alert),
                alert.up() ? alert.level().word() : "steady",
                alert.level().word(),
                kind.value(alert, alert.value()),
                kind.value(alert, alert.worst()),
                times.of(alert.raisedAt()),
                times.of(alert.clearedAt()),
                kind.limits(alert),
                kind.drawn(alert));
    }

    /** On which component it shows, where that is not the one that the case is about. */
    private String elsewhere(Alert alert, WorkCase one) {
        long on = alert.about().component();
        return on == one.component() ? "" : " on " + estate.component(on).name();
    }

    private EntryView entryView(CaseStore.Entry entry, Map<Long, String> names) {
        var person = entry.person();
        var who = person == null ? "Morvet" : Objects.requireNonNullElse(names.get(person), "Somebody");
        return new EntryView(times.of(entry.at()), who, entry.words(), entry.kind());
    }

    /** The reasons for settling, for the form. */
    static List<SettleReason> reasons() {
        return SettleReason.choices();
    }
}
