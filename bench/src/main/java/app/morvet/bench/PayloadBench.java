package app.morvet.bench;

import app.morvet.core.messages.Mask;
import app.morvet.core.messages.Masking;
import app.morvet.core.messages.PayloadView;
import app.morvet.core.messages.SearchWords;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.IntSupplier;

/** Payloads of 20 million characters of every shape: masked, laid out and made findable, beside one pass over their characters. */
final class PayloadBench {
    private static final int SIZE = 20_000_000;
    private static final Masking MASKS = Masking.of(
            List.of(
                    Mask.ofPath(Set.of(), "member/@no"),
                    Mask.ofPath(Set.of(), "contact/mail"),
                    Mask.ofPath(Set.of(), "iban"),
                    Mask.ofPattern(Set.of(), "\\bSX\\d{2}(?: ?\\d{4}){3}\\b")),
            "bench");

    private volatile int kept;

    void run() throws Exception {
        System.out.printf(
                "%npayloads of %,d characters, four masks, in a heap of %,d MB%n",
                SIZE, Runtime.getRuntime().maxMemory() >> 20);
        for (var shape : shapes().entrySet()) {
            var type = shape.getKey().split(":")[0];
            var text = shape.getValue();
            report(shape.getKey(), "masked", text, () -> MASKS.payload(type, text)
                    .text()
                    .length());
            report(shape.getKey(), "shown", text, () -> PayloadView.of(
                            type,
                            text.substring(0, Math.min(text.length(), PayloadView.LONGEST_READ)),
                            text.length(),
                            MASKS,
                            "cannot read /a/b/c at line 1, column 9")
                    .text()
                    .length());
            report(shape.getKey(), "findable", text, () -> SearchWords.of(
                            MASKS.payload(type, text.substring(0, SearchWords.LONGEST))
                                    .text())
                    .length());
        }
    }

    private void report(String shape, String what, String text, IntSupplier work) throws Exception {
        var found = InTurn.of(
                1, InTurn.millis(() -> kept += work.getAsInt()), InTurn.millis(() -> kept += plainPass(text)));
        System.out.printf(
                "%-42s %-8s %,8.0f ms (aim 2,000), a plain pass %.0f ms, %s%n",
                shape, what, found.measured(), found.limit(), found.words());
    }

    private static int plainPass(String text) {
        int sum = 0;
        for (int i = 0; i < text.length(); i++) sum += text.charAt(i);
        return sum;
    }

    private static Map<String, String> shapes() {
        var shapes = new LinkedHashMap<String, String>();
        var json = "application/json";
        var xml = "application/xml";
        shapes.put(json + ": brackets, then numbers", "[".repeat(199) + filled("1,"));
        shapes.put(json + ": only brackets", filled("["));
        shapes.put(json + ": one list of texts", "[" + filled("\"Aurelind to Velmo\",") + "1]");
        shapes.put(
                json + ": bookings",
                "[" + filled("{\"booking\":\"BK-4711\",\"contact\":{\"mail\":\"a@b.example\"},\"deck\":3},") + "1]");
        shapes.put(json + ": one text", "[\"" + filled("made up ") + "\"]");
        shapes.put(json + ": escapes", "[\"" + filled("\\u0041") + "\"]");
        shapes.put(xml + ": flat", "<a>" + filled("<b>1</b>") + "</a>");
        shapes.put(xml + ": attributes", "<a " + filled("b=\"1\" ") + "/>");
        shapes.put(xml + ": character data", "<a>" + filled("<![CDATA[x]]>") + "</a>");
        shapes.put(xml + ": entities", "<a>" + filled("&amp;") + "</a>");
        shapes.put("text/csv: empty cells", "a;b\n" + filled(";"));
        shapes.put("text/csv: rows", "name;harbour;fare\n" + filled("Mora;TORVE;12.50\n"));
        shapes.put("text/plain: words", filled("made up "));
        shapes.put("text/plain: coded", filled("TW9yYSBvbiBib2FyZA== "));
        shapes.put("text/plain: one word", filled("a"));
        return shapes;
    }

    private static String filled(String piece) {
        return piece.repeat(SIZE / piece.length());
    }
}
