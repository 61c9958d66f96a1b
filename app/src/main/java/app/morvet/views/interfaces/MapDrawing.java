package app.morvet.views.interfaces;

import app.morvet.core.messages.InterfaceMap;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Figures;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import org.springframework.stereotype.Component;

/** The map as it is drawn: places from core, with words, weights and marks. */
@Component
class MapDrawing {
    private static final int PARTY_LETTERS = 19;
    private static final int CARRIER_LETTERS = 26;

    /** @param outside whether it is no application of the estate */
    record Party(String name, String whole, String place, boolean outside) {}

    /** @param title what is wrong, or what it carries */
    record Carrier(String key, String name, String title, String mark, String place) {}

    /** @param path as SVG has it */
    record Line(String path, String weight, String mark, boolean back) {}

    record Drawing(
            List<Party> parties,
            List<Carrier> carriers,
            List<Line> lines,
            InterfaceMap.Measures measures,
            int width,
            int height) {}

    /** Where all stands, and the paths of its lines: laid out anew only when somebody else carries between somebody else. */
    private record LaidOut(List<InterfaceMap.Flow> flows, InterfaceMap map, List<String> paths) {
        static LaidOut of(List<InterfaceMap.Flow> flows) {
            var map = InterfaceMap.of(flows, InterfaceMap.Measures.USUAL);
            return new LaidOut(
                    List.copyOf(flows),
                    map,
                    map.lines().stream().map(MapDrawing::path).toList());
        }
    }

    private final Estate estate;
    private volatile LaidOut last = LaidOut.of(List.of());

    MapDrawing(Estate estate) {
        this.estate = estate;
    }

    Drawing of(List<InterfaceMap.Flow> flows, Map<String, InterfaceRows.OnMap> standings) {
        var laidOut = last;
        if (!laidOut.flows().equals(flows)) last = laidOut = LaidOut.of(flows);
        var map = laidOut.map();
        var paths = laidOut.paths();
        var applications = new HashSet<String>();
        estate.applications().forEach(one -> applications.add(one.key()));
        var parties = new ArrayList<Party>();
        var carriers = new ArrayList<Carrier>();
        for (var node : map.nodes()) {
            if (node.carrier()) {
                var standing = Objects.requireNonNull(standings.get(node.id()));
                carriers.add(new Carrier(
                        node.id(),
                        cut(standing.name(), CARRIER_LETTERS),
                        title(standing),
                        standing.mark(),
                        place(node)));
            } else {
                var name = estate.nameOf(node.id());
                parties.add(new Party(cut(name, PARTY_LETTERS), name, place(node), !applications.contains(node.id())));
            }
        }
        var lines = new ArrayList<Line>();
        for (int i = 0; i < paths.size(); i++) {
            var line = map.lines().get(i);
            var standing = Objects.requireNonNull(standings.get(line.flow()));
            lines.add(new Line(paths.get(i), Figures.tenths(weight(standing.carried())), standing.mark(), line.back()));
        }
        return new Drawing(parties, carriers, lines, InterfaceMap.Measures.USUAL, (int) Math.ceil(map.width()), (int)
                Math.ceil(map.height()));
    }

    private static String place(InterfaceMap.Node node) {
        return "translate(" + Figures.tenths(node.x()) + " " + Figures.tenths(node.y()) + ")";
    }

    private static String title(InterfaceRows.OnMap one) {
        var carries = one.name() + ": " + Figures.grouped(one.carried()) + " carried today"
                + (one.usual().isEmpty() ? "" : ", " + one.usual() + " usual by now");
        return one.troubles().isEmpty() ? carries : carries + "; " + String.join("; ", one.troubles());
    }

    private static String cut(String name, int most) {
        return name.length() <= most ? name : name.substring(0, most - 1).strip() + "…";
    }

    /** By the logarithm: ten times the traffic is one step heavier. */
    private static double weight(long carried) {
        return Math.clamp(0.8 + 0.9 * Math.log10(Math.max(1, carried)), 0.8, 5);
    }

    private static String path(InterfaceMap.Line line) {
        var points = line.points();
        var path = new StringBuilder();
        for (int i = 0; i < points.size(); i++) {
            var point = points.get(i);
            if (i == 0) path.append(String.format(Locale.ROOT, "M%.1f %.1f", point.x(), point.y()));
            else if (i % 2 == 0) path.append(String.format(Locale.ROOT, "L%.1f %.1f", point.x(), point.y()));
            else {
                var before = points.get(i - 1);
                double middle = (before.x() + point.x()) / 2;
                path.append(String.format(
                        Locale.ROOT,
                        "C%.1f %.1f %.1f %.1f %.1f %.1f",
                        middle,
                        before.y(),
                        middle,
                        point.y(),
                        point.x(),
                        point.y()));
            }
        }
        return path.toString();
    }
}
