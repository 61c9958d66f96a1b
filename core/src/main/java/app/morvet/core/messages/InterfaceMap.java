package app.morvet.core.messages;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * The map of what carries to whom, laid out in layers from left to right: a node for each party and one for each interface
 * between them. Follows Sugiyama, Tagawa and Toda (1981): circles are broken, parties are layered by the longest way to
 * them, long lines pass through the layers between, and crossings are brought down by barycentres.
 *
 * @param nodes with their places
 * @param lines from a node to the next, as the points that they pass through
 */
public record InterfaceMap(List<Node> nodes, List<Line> lines, double width, double height, int crossings) {
    /** One interface between two parties. */
    public record Flow(String id, String from, String to) {}

    /** @param carrier whether it is an interface, and not a party */
    public record Node(String id, boolean carrier, double x, double y, double width, double height) {}

    /** @param back whether it runs from right to left */
    public record Line(String flow, List<Point> points, boolean back) {}

    public record Point(double x, double y) {}

    private static final int SWEEPS = 24;

    /**
     * How large things are drawn.
     *
     * @param party   width of a party
     * @param carrier width of an interface
     * @param gap     between columns
     */
    public record Measures(
            double party, double carrier, double partyHeight, double carrierHeight, double gap, double between) {
        public static final Measures USUAL = new Measures(132, 178, 30, 18, 46, 7);
    }

    /** A place in a layer: a party, an interface, or where a long line passes. */
    private static final class Spot {
        private final String id;
        private final int layer;
        private final int kind;
        private final List<Spot> left = new ArrayList<>();
        private final List<Spot> right = new ArrayList<>();
        private double y;
        private double wish;

        Spot(String id, int layer, int kind) {
            this.id = id;
            this.layer = layer;
            this.kind = kind;
        }

        double height(Measures measures) {
            return kind == PARTY ? measures.partyHeight : kind == CARRIER ? measures.carrierHeight : 4;
        }
    }

    private static final int PARTY = 0;
    private static final int CARRIER = 1;
    private static final int PASSING = 2;

    /** @param flows in any order; the same ones give the same map */
    public static InterfaceMap of(List<Flow> flows, Measures measures) {
        var sorted = flows.stream().sorted(Comparator.comparing(Flow::id)).toList();
        var layers = layers(sorted);
        var rows = new ArrayList<List<Spot>>();
        var parties = new LinkedHashMap<String, Spot>();
        var chains = new LinkedHashMap<Flow, List<Spot>>();
        layers.forEach((party, layer) -> parties.put(party, put(rows, new Spot(party, layer * 2, PARTY))));
        for (var flow : sorted) {
            var one = parties.get(flow.from());
            var other = parties.get(flow.to());
            boolean back = one.layer >= other.layer;
            var left = back ? other : one;
            var right = back ? one : other;
            var chain = new ArrayList<Spot>();
            chain.add(left);
            for (int layer = left.layer + 1; layer < Math.max(right.layer, left.layer + 2); layer++)
                chain.add(put(rows, new Spot(flow.id(), layer, layer == left.layer + 1 ? CARRIER : PASSING)));
            if (left != right && right.layer > left.layer) chain.add(right);
            for (int i = 1; i < chain.size(); i++) {
                chain.get(i - 1).right.add(chain.get(i));
                chain.get(i).left.add(chain.get(i - 1));
            }
            chains.put(flow, chain);
        }
        int crossings = order(rows);
        double height = place(rows, measures);
        return drawn(rows, chains, measures, height, crossings, parties);
    }

    private static Spot put(List<List<Spot>> rows, Spot spot) {
        while (rows.size() <= spot.layer) rows.add(new ArrayList<>());
        rows.get(spot.layer).add(spot);
        return spot;
    }

    /** Longest ways, circles broken where a search in depth comes back to where it is. */
    private static Map<String, Integer> layers(List<Flow> flows) {
        var next = new LinkedHashMap<String, Set<String>>();
        for (var flow : flows) {
            next.computeIfAbsent(flow.from(), none -> new LinkedHashSet<>());
            next.computeIfAbsent(flow.to(), none -> new LinkedHashSet<>());
            if (!flow.from().equals(flow.to())) next.get(flow.from()).add(flow.to());
        }
        var incoming = new HashMap<String, Integer>();
        next.values().forEach(targets -> targets.forEach(target -> incoming.merge(target, 1, Integer::sum)));
        // Who only sends comes first, so that circles are broken behind them.
        var starts = next.keySet().stream()
                .sorted(Comparator.comparingInt((String one) -> incoming.getOrDefault(one, 0))
                        .thenComparing(Comparator.naturalOrder()))
                .toList();
        var done = new ArrayList<String>();
        var seen = new HashSet<String>();
        var onWay = new HashSet<String>();
        for (var start : starts) search(start, next, seen, onWay, done);
        var layers = new LinkedHashMap<String, Integer>();
        for (int i = done.size() - 1; i >= 0; i--) {
            var one = done.get(i);
            int layer = layers.computeIfAbsent(one, none -> 0);
            for (var target : next.get(one)) layers.merge(target, layer + 1, Math::max);
        }
        return layers;
    }

    private static void search(
            String one, Map<String, Set<String>> next, Set<String> seen, Set<String> onWay, List<String> done) {
        if (!seen.add(one)) return;
        onWay.add(one);
        var targets = next.get(one);
        targets.removeIf(onWay::contains);
        for (var target : List.copyOf(targets)) search(target, next, seen, onWay, done);
        onWay.remove(one);
        done.add(one);
    }

    private static int order(List<List<Spot>> rows) {
        int best = crossings(rows);
        var kept = copy(rows);
        for (int sweep = 0; sweep < SWEEPS && best > 0; sweep++) {
            boolean toRight = sweep % 2 == 0;
            for (int i = 1; i < rows.size(); i++) {
                var row = rows.get(toRight ? i : rows.size() - 1 - i);
                var beside = rows.get(toRight ? i - 1 : rows.size() - i);
                var places = new HashMap<Spot, Integer>();
                for (int place = 0; place < beside.size(); place++) places.put(beside.get(place), place);
                for (int place = 0; place < row.size(); place++) {
                    var spot = row.get(place);
                    double own = place;
                    spot.wish = (toRight ? spot.left : spot.right)
                            .stream().mapToInt(places::get).average().orElse(own);
                }
                row.sort(Comparator.comparingDouble(spot -> spot.wish));
            }
            int now = crossings(rows);
            if (now < best) {
                best = now;
                kept = copy(rows);
            }
        }
        for (int i = 0; i < rows.size(); i++) rows.set(i, kept.get(i));
        return best;
    }

    private static List<List<Spot>> copy(List<List<Spot>> rows) {
        var copy = new ArrayList<List<Spot>>();
        rows.forEach(row -> copy.add(new ArrayList<>(row)));
        return copy;
    }

    static int crossings(List<List<Spot>> rows) {
        int sum = 0;
        for (int i = 0; i + 1 < rows.size(); i++) {
            var places = new HashMap<Spot, Integer>();
            for (int place = 0; place < rows.get(i + 1).size(); place++)
                places.put(rows.get(i + 1).get(place), place);
            var ends = rows.get(i).stream()
                    .flatMap(spot -> spot.right.stream().map(places::get).sorted())
                    .mapToInt(Integer::intValue)
                    .toArray();
            sum += inversions(ends, 0, ends.length);
        }
        return sum;
    }

    /** Pairs that stand the wrong way round, by merging. */
    private static int inversions(int[] values, int from, int to) {
        if (to - from < 2) return 0;
        int middle = (from + to) / 2;
        int sum = inversions(values, from, middle) + inversions(values, middle, to);
        var left = Arrays.copyOfRange(values, from, middle);
        int l = 0;
        int r = middle;
        for (int at = from; at < to; at++) {
            if (l < left.length && (r >= to || left[l] <= values[r])) {
                values[at] = left[l++];
            } else {
                sum += left.length - l;
                values[at] = values[r++];
            }
        }
        return sum;
    }

    /** Each near the middle of its neighbours, none on another. */
    private static double place(List<List<Spot>> rows, Measures measures) {
        double tallest = 0;
        for (var row : rows) {
            double y = 0;
            for (var spot : row) {
                spot.y = y;
                y += spot.height(measures) + measures.between;
            }
            tallest = Math.max(tallest, y);
        }
        for (var row : rows) {
            double free = tallest
                    - (row.isEmpty() ? 0 : row.getLast().y + row.getLast().height(measures));
            row.forEach(spot -> spot.y += free / 2);
        }
        for (int sweep = 0; sweep < SWEEPS; sweep++) {
            for (int i = 0; i < rows.size(); i++) {
                var row = rows.get(sweep % 2 == 0 ? i : rows.size() - 1 - i);
                for (var spot : row) {
                    var neighbours = new ArrayList<>(spot.left);
                    neighbours.addAll(spot.right);
                    spot.wish = neighbours.stream()
                                    .mapToDouble(other -> other.y + other.height(measures) / 2)
                                    .average()
                                    .orElse(spot.y + spot.height(measures) / 2)
                            - spot.height(measures) / 2;
                }
                spread(row, measures, tallest);
            }
        }
        return tallest;
    }

    /** Puts each where it wishes to be, as near as the others of its layer let it: pushed down, then up. */
    private static void spread(List<Spot> row, Measures measures, double tallest) {
        double floor = 0;
        for (var spot : row) {
            spot.y = Math.max(floor, spot.wish);
            floor = spot.y + spot.height(measures) + measures.between;
        }
        double ceiling = tallest;
        for (int i = row.size() - 1; i >= 0; i--) {
            var spot = row.get(i);
            spot.y = Math.min(spot.y, ceiling - spot.height(measures) - measures.between);
            ceiling = spot.y;
        }
    }

    private static InterfaceMap drawn(
            List<List<Spot>> rows,
            Map<Flow, List<Spot>> chains,
            Measures measures,
            double height,
            int crossings,
            Map<String, Spot> parties) {
        var columns = new double[rows.size() + 1];
        for (int i = 0; i < rows.size(); i++)
            columns[i + 1] = columns[i] + (i % 2 == 0 ? measures.party : measures.carrier) + measures.gap;
        var nodes = new ArrayList<Node>();
        for (var row : rows)
            for (var spot : row)
                if (spot.kind != PASSING)
                    nodes.add(new Node(
                            spot.id,
                            spot.kind == CARRIER,
                            columns[spot.layer],
                            spot.y,
                            spot.kind == PARTY ? measures.party : measures.carrier,
                            spot.height(measures)));
        var lines = new ArrayList<Line>();
        chains.forEach((flow, chain) -> {
            var points = new ArrayList<Point>();
            for (var spot : chain) {
                double middle = spot.y + spot.height(measures) / 2;
                double wide = spot.layer % 2 == 0 ? measures.party : measures.carrier;
                if (spot != chain.getFirst()) points.add(new Point(columns[spot.layer], middle));
                if (spot != chain.getLast()) points.add(new Point(columns[spot.layer] + wide, middle));
            }
            lines.add(new Line(flow.id(), points, parties.get(flow.from()) != chain.getFirst()));
        });
        double width = Math.max(0, columns[rows.size()] - measures.gap);
        return new InterfaceMap(List.copyOf(nodes), List.copyOf(lines), width, height, crossings);
    }
}
