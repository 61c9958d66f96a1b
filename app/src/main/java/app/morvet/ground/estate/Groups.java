package app.morvet.ground.estate;

import app.morvet.core.estate.Scope;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Groups of components that somebody looks after together: put together by hand, by a rule, or by both. */
@Service
public class Groups {
    private static final int LONGEST_NAME = 100;
    private static final int LONGEST_CONTACT = 200;

    /**
     * @param id      0 for one that is new
     * @param contact whom to ask, in words; may be empty
     * @param rule    takes in what fits, from now on; or null. It names no group and no chain
     * @param byHand  ids of the components that are in it whatever the rule says
     */
    public record Group(long id, String name, String contact, @Nullable Scope rule, Set<Long> byHand, int version) {
        boolean has(long component, Scope.Facts facts) {
            return byHand.contains(component) || rule != null && rule.takes(facts);
        }
    }

    private final EstateStore store;
    private final Estate estate;

    Groups(EstateStore store, Estate estate) {
        this.store = store;
        this.estate = estate;
    }

    public Optional<Group> find(long id) {
        return estate.groups().stream().filter(one -> one.id() == id).findFirst();
    }

    /** What is in it now, by name. */
    public List<Estate.Component> members(Group group) {
        return estate.components().stream()
                .filter(one -> group.has(one.id(), estate.factsOf(one)))
                .toList();
    }

    /** In words: {@code each host of Freight Manifests, and quay-05}. */
    public String words(Group group) {
        var byHand = group.byHand().stream()
                .map(id -> estate.component(id).name())
                .sorted()
                .collect(Collectors.joining(", "));
        var rule = group.rule();
        return Stream.of(rule == null ? "" : rule.words(estate::nameOf), byHand)
                .filter(some -> !some.isEmpty())
                .collect(Collectors.joining(", and "));
    }

    /**
     * The ids of components that are named, by name or key, with commas or lines between.
     *
     * @throws IllegalArgumentException where one is not there; says which
     */
    public Set<Long> named(String typed) {
        var ids = new TreeSet<Long>();
        for (var part : typed.split("[,\\n]")) {
            var wanted = part.strip();
            if (wanted.isEmpty()) continue;
            ids.add(estate.byKey(wanted)
                    .or(() -> estate.components().stream()
                            .filter(one -> one.name().equalsIgnoreCase(wanted))
                            .findFirst())
                    .orElseThrow(() -> new IllegalArgumentException("there is no component \"" + wanted + "\""))
                    .id());
        }
        return ids;
    }

    /**
     * Adds a group, or changes one whose version is still the one given.
     *
     * @throws IllegalArgumentException saying what cannot be
     */
    @Transactional
    public long keep(Group group) {
        check(group);
        long id;
        try {
            id = store.keep(group);
        } catch (DuplicateKeyException taken) {
            throw new IllegalArgumentException("there is a group \"" + group.name() + "\" already", taken);
        }
        if (id == 0)
            throw new IllegalArgumentException(
                    "somebody else changed this group meanwhile; nothing was saved, what you typed stands below");
        estate.changed();
        return id;
    }

    private static void check(Group group) {
        if (group.name().isBlank() || group.name().length() > LONGEST_NAME)
            throw new IllegalArgumentException("a group has a name of at most 100 letters");
        if (group.contact().length() > LONGEST_CONTACT)
            throw new IllegalArgumentException("the contact has at most 200 letters");
        var rule = group.rule();
        if (rule != null && !(rule.group().isEmpty() && rule.chain().isEmpty()))
            throw new IllegalArgumentException("the rule of a group can name no group and no chain");
        if (rule == null && group.byHand().isEmpty())
            throw new IllegalArgumentException("say what is in it: by hand, by a rule, or both");
    }

    /** Takes a group away; scopes that name it take in nothing from then on. */
    @Transactional
    public void delete(long id) {
        store.deleteGroup(id);
        estate.changed();
    }

    /** For what is set up by the application itself. */
    public void set(String name, String contact, @Nullable Scope rule, Set<Long> byHand) {
        keep(new Group(0, name, contact, rule, byHand, 0));
    }
}
