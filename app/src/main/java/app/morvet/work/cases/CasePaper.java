package app.morvet.work.cases;

import app.morvet.alerting.alerts.Origins;
import app.morvet.ground.page.Curve;
import app.morvet.ground.page.Times;
import app.morvet.ground.tracks.TimePictures;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.web.util.HtmlUtils;

/** A case for those who were not there: what happened, over time, what is to be done and what was, as text. */
@Component
class CasePaper {
    private static final int CURVES = 3;

    private final CaseViews views;
    private final CaseAlerts alerts;
    private final Origins origins;
    private final CasePicture picture;
    private final Times times;

    CasePaper(CaseViews views, CaseAlerts alerts, Origins origins, CasePicture picture, Times times) {
        this.views = views;
        this.alerts = alerts;
        this.origins = origins;
        this.picture = picture;
        this.times = times;
    }

    /** A part of the paper; lines of a list have a mark before them. */
    record Part(String head, List<String> lines) {}

    /** @param made when, in words */
    record Paper(
            String headline,
            String standing,
            String made,
            List<Part> parts,
            TimePictures.Shown time,
            List<Curve> curves) {}

    Paper of(WorkCase one) {
        var dossier = views.dossier(one);
        var time = picture.of(one, Optional.empty());
        var row = dossier.row();
        var standing = "Case %d · %s, tier %d · owned by %s · %s%s%s"
                .formatted(
                        row.id(),
                        dossier.application(),
                        dossier.tier(),
                        dossier.owner(),
                        row.state(),
                        row.who().isEmpty() ? "" : ", " + row.who(),
                        dossier.settled() ? ": " + dossier.settledAs() : "");
        var facts = new ArrayList<String>();
        dossier.facts().forEach(it -> facts.add(it.name() + ": " + it.words()));
        facts.add("Open since: " + dossier.opened());
        if (!dossier.overSince().isEmpty()) facts.add("Over since: " + dossier.overSince());
        return new Paper(
                row.headline(),
                standing,
                times.exact(times.now()) + " " + times.zoneName(),
                List.of(
                        new Part("Facts", facts),
                        new Part(
                                "Alerts",
                                dossier.alerts().stream().map(CasePaper::words).toList()),
                        new Part(
                                "How to fix it",
                                dossier.fixes().stream()
                                        .flatMap(fix -> fix.parts().stream())
                                        .map(it -> (it.step().isEmpty()
                                                        ? ""
                                                        : it.done().isEmpty() ? "[ ] " : "[x] ")
                                                + plain(it.html())
                                                + (it.done().isEmpty() ? "" : " (" + it.done() + ")"))
                                        .toList()),
                        new Part(
                                "Failure families",
                                dossier.families().stream()
                                        .map(it -> "%,d × %s".formatted(it.count(), it.words()))
                                        .toList()),
                        new Part(
                                "Over time",
                                time.rows().stream()
                                        .map(it -> it.at() + " · " + it.track() + ": " + it.words())
                                        .toList()),
                        new Part(
                                "Log",
                                dossier.log().reversed().stream()
                                        .map(it -> it.at() + " · " + it.who() + ": " + it.words())
                                        .toList())),
                time,
                alerts.told(one).stream()
                        .filter(alert -> origins.of(alert).drawn(alert))
                        .limit(CURVES)
                        .map(alert -> origins.of(alert).curve(alert, one.firstSeen()))
                        .filter(curve ->
                                !curve.times().isEmpty() && curve.track().isEmpty())
                        .toList());
    }

    private static String words(CaseViews.AlertView one) {
        return one.name() + ": "
                + one.worst()
                + (one.limits().isEmpty() ? "" : " (" + one.limits() + ")")
                + ", raised " + one.raised()
                + (one.cleared().isEmpty() ? ", up still" : ", cleared " + one.cleared());
    }

    /** Fix notes are written by people as Markdown and are plain text here. */
    private static String plain(String html) {
        return HtmlUtils.htmlUnescape(html.replaceAll("<[^>]*>", ""))
                .replaceAll("\\s+", " ")
                .strip();
    }

    /** As Markdown (CommonMark); what was told is escaped, so that it stays what it says. */
    String markdown(Paper paper) {
        var text = new StringBuilder("# " + escaped(paper.headline()) + "\n\n" + escaped(paper.standing()) + "  \n"
                + "As of " + paper.made() + "\n");
        for (var part : paper.parts()) {
            if (part.lines().isEmpty()) continue;
            text.append("\n## ").append(part.head()).append("\n\n");
            for (var line : part.lines()) {
                boolean step = line.startsWith("[ ] ") || line.startsWith("[x] ");
                text.append("- ")
                        .append(step ? line.substring(0, 4) : "")
                        .append(escaped(step ? line.substring(4) : line))
                        .append('\n');
            }
        }
        return text.toString();
    }

    private static String escaped(String words) {
        return words.replaceAll("[\\r\\n]+", " ").replaceAll("([\\\\`*_\\[\\]<>#|])", "\\\\$1");
    }
}
