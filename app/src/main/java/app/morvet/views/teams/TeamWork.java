package app.morvet.views.teams;

import app.morvet.core.estate.ComponentKey;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.Person;
import app.morvet.ground.estate.Estate;
import app.morvet.work.cases.CaseBook;
import app.morvet.work.cases.WorkCase;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What is open with each team, and what of a team itself is changed. */
@Service
class TeamWork {
    private static final int SHOWN = 30;

    record OpenCase(long id, String mark, String headline) {}

    private final CaseBook cases;
    private final Estate estate;
    private final Audit audit;

    TeamWork(CaseBook cases, Estate estate, Audit audit) {
        this.cases = cases;
        this.estate = estate;
        this.audit = audit;
    }

    /** How many cases are open, by the team that owns what they are on. */
    Map<Long, Long> openByTeam() {
        var open = new HashMap<Long, Long>();
        for (var one : cases.open())
            estate.ownerOf(estate.component(one.component())).ifPresent(team -> open.merge(team.id(), 1L, Long::sum));
        return open;
    }

    List<OpenCase> openOf(long team) {
        return cases.open().stream()
                .filter(one -> estate.ownerOf(estate.component(one.component()))
                        .filter(it -> it.id() == team)
                        .isPresent())
                .sorted(java.util.Comparator.comparing(WorkCase::severity)
                        .reversed()
                        .thenComparing(WorkCase::id))
                .limit(SHOWN)
                .map(one -> new OpenCase(
                        one.id(), one.overSince() == null ? one.severity().word() : "steady", one.headline()))
                .toList();
    }

    /** @throws IllegalArgumentException saying what cannot be */
    @Transactional
    public void change(Estate.Team before, String name, String mail, Person by) {
        check(name, mail);
        var after = new Estate.Team(before.id(), before.key(), name, mail);
        if (after.equals(before)) return;
        estate.change(after);
        audit.record(
                by, "team changed", "team " + before.name(), before.name() + ", " + before.mail(), name + ", " + mail);
    }

    /**
     * Makes a team, known by its name in lower case with dashes.
     *
     * @return its key
     * @throws IllegalArgumentException saying what cannot be
     */
    @Transactional
    public String make(String name, String mail, Person by) {
        check(name, mail);
        var key = ComponentKey.of(name);
        if (key.isEmpty())
            throw new IllegalArgumentException(
                    "a team has a letter from a to z or a figure in its name, by which it is known");
        if (estate.team(key).isPresent()) throw new IllegalArgumentException("there is a team of that name already");
        estate.addTeam(key, name, mail);
        audit.record(by, "team made", "team " + name, null, name + ", " + mail);
        return key;
    }

    private static void check(String name, String mail) {
        if (name.isEmpty() || name.length() > 100)
            throw new IllegalArgumentException("a team has a name of at most 100 letters");
        if (!mail.matches("[^@\\s]{1,100}@[^@\\s]{1,150}"))
            throw new IllegalArgumentException("\"" + mail + "\" is no mail address");
    }
}
