package app.morvet.sources.intake;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** Makes from what is right what nobody means: bits of it left out, doubled, put elsewhere, or replaced by what breaks programs. */
final class Mutations {
    private static final List<String> NASTY = List.of(
            "",
            "\u0000",
            "\ud800",
            "\\ud800",
            "\uFEFF",
            "\u2028",
            "\r\n",
            "\t",
            "'",
            "\"",
            "\\",
            "{",
            "}",
            "[",
            "]",
            "{x}",
            "${7*7}",
            "&a",
            "*a",
            "<<: *a",
            "!!java.net.URL [x]",
            "-",
            ":",
            "#",
            "|",
            ">-",
            "%",
            ";",
            ",",
            "=",
            "NaN",
            "-Inf",
            "+Inf",
            "1e999",
            "-1e300",
            "-0",
            "9223372036854775808",
            "99999999999999999999999999",
            "1/0",
            "0/0",
            "*/0",
            "60-0",
            "+999999999-12-31T23:59:59Z",
            "-999999999-01-01T00:00:00Z",
            "2027-02-30T25:61:61Z",
            "P999999999D",
            "PT-1S",
            "FREQ=SECONDLY;INTERVAL=1",
            "BEGIN:VEVENT",
            "END:VCALENDAR",
            "RRULE:FREQ=YEARLY;BYDAY=99MO",
            "# EOF",
            "# TYPE a histogram",
            "le=\"-Inf\"",
            "\u202E\u0663\u0664",
            "a".repeat(3000),
            "[".repeat(300),
            "{\"a\":".repeat(200),
            "\n".repeat(2000));

    private final Random random;
    private final JsonMapper json = new JsonMapper();

    Mutations(long seed) {
        random = new Random(seed);
    }

    int upTo(int bound) {
        return random.nextInt(bound);
    }

    private String nasty() {
        return NASTY.get(random.nextInt(NASTY.size()));
    }

    /** One to five changes anywhere in a text. */
    String of(String text) {
        var out = new StringBuilder(text);
        for (int changes = 1 + random.nextInt(5); changes > 0; changes--) {
            int from = random.nextInt(out.length() + 1);
            int to = Math.min(out.length(), from + random.nextInt(random.nextBoolean() ? 4 : 60));
            switch (random.nextInt(7)) {
                case 0 -> out.delete(from, to);
                case 1 -> out.insert(from, nasty());
                case 2 -> out.replace(from, to, nasty());
                case 3 -> out.insert(random.nextInt(out.length() + 1), out.substring(from, to));
                case 4 -> out.insert(from, out.substring(from, to).repeat(random.nextInt(200)));
                case 5 -> out.setLength(from);
                default -> {
                    if (from < out.length()) out.setCharAt(from, (char) (out.charAt(from) ^ 1 << random.nextInt(8)));
                }
            }
        }
        return out.toString();
    }

    /** JSON in which one to three values, or names, are others; it stays JSON. */
    JsonNode of(JsonNode right) {
        var root = right.deepCopy();
        for (int changes = 1 + random.nextInt(3); changes > 0; changes--) change(root);
        return root;
    }

    private void change(JsonNode root) {
        var inner = new ArrayList<JsonNode>();
        collect(root, inner);
        var one = inner.get(random.nextInt(inner.size()));
        if (one instanceof ArrayNode list) {
            if (random.nextBoolean() || list.isEmpty()) list.add(value());
            else list.set(random.nextInt(list.size()), value());
        } else if (one instanceof ObjectNode object && !object.isEmpty()) {
            var names = List.copyOf(object.propertyNames());
            var name = names.get(random.nextInt(names.size()));
            switch (random.nextInt(4)) {
                case 0 -> object.remove(name);
                case 1 -> object.set(nasty(), value());
                case 2 -> object.put(name, of(object.path(name).asString("x")));
                default -> object.set(name, value());
            }
        }
    }

    private static void collect(JsonNode node, List<JsonNode> inner) {
        if (!node.isContainer()) return;
        inner.add(node);
        node.forEach(child -> collect(child, inner));
    }

    private JsonNode value() {
        return switch (random.nextInt(9)) {
            case 0 -> json.nullNode();
            case 1 -> json.getNodeFactory().booleanNode(true);
            case 2 -> json.getNodeFactory().numberNode(random.nextLong());
            case 3 -> json.getNodeFactory().numberNode(Double.longBitsToDouble(0x7fefffffffffffffL));
            case 4 -> json.createObjectNode().set(nasty(), json.getNodeFactory().stringNode(nasty()));
            case 5 -> json.createArrayNode().add(nasty()).add(1);
            case 6 -> json.getNodeFactory().numberNode(new java.math.BigInteger("9".repeat(400)));
            default -> json.getNodeFactory().stringNode(nasty());
        };
    }
}
