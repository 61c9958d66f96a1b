package app.morvet.sources.outposts;

import app.morvet.core.outposts.Ask;
import app.morvet.core.outposts.Brief;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.estate.Groups;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;
import org.apache.commons.codec.digest.DigestUtils;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Puts together what each outpost is to look at. Its version is made of its content, so what did not change is not fetched. */
@Component
class Briefs {
    private static final int LENGTH = 12;

    private final OutpostStore store;
    private final List<OutpostPart> parts;
    private final Groups groups;
    private final Estate estate;
    private final JsonMapper json;

    Briefs(OutpostStore store, List<OutpostPart> parts, Groups groups, Estate estate, JsonMapper json) {
        this.store = store;
        this.parts = parts;
        this.groups = groups;
        this.estate = estate;
        this.json = json;
    }

    /** What it is to measure, each line with who asks for it. */
    Brief measures(Outpost outpost) {
        var host = estate.component(outpost.component());
        var asks = new ArrayList<Ask>();
        var inGroup = new TreeMap<Long, String>();
        for (var kept : store.asks()) {
            var ask = kept.ask();
            var group = kept.group();
            if (kept.outpost() != null && kept.outpost() != outpost.id()) continue;
            if (group == null) {
                asks.add(ask);
                continue;
            }
            var name = inGroup.computeIfAbsent(group, id -> groups.find(id)
                    .filter(it -> groups.members(it).contains(host))
                    .map(Groups.Group::name)
                    .orElse(""));
            if (!name.isEmpty()) asks.add(new Ask(ask.whence(), name, ask.what(), ask.of(), ask.every(), ask.active()));
        }
        return Brief.of(asks);
    }

    String version(Outpost outpost) {
        return version(outpost, measures(outpost));
    }

    private String version(Outpost outpost, Brief measures) {
        var text = new StringBuilder(outpost.name()).append('\n');
        measures.active().forEach(one -> text.append(one.what())
                .append('|')
                .append(one.of())
                .append('|')
                .append(one.every())
                .append('\n'));
        parts.forEach(part -> text.append(part.name())
                .append(' ')
                .append(part.stamp(outpost.id()))
                .append('\n'));
        return DigestUtils.sha256Hex(text.toString()).substring(0, LENGTH);
    }

    /** All of it, as it is sent. */
    ObjectNode whole(Outpost outpost) {
        var measures = measures(outpost);
        var brief = json.createObjectNode().put("version", version(outpost, measures));
        var list = brief.putArray("measures");
        for (var one : measures.active())
            list.addObject()
                    .put("what", one.what())
                    .put("of", one.of())
                    .put("everySeconds", one.every().toSeconds());
        for (var part : parts) {
            var some = part.brief(outpost.id());
            if (!some.isEmpty()) brief.putArray(part.name()).addAll(some);
        }
        return brief;
    }
}
