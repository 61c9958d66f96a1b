package app.morvet.sources.intake;

import app.morvet.ground.base.PlainText;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;

/** What of one batch is refused: the first of it with its reasons and how it was sent, and how many there were in all. */
final class Refusals {
    static final int TOLD = 100;
    private static final int LONGEST_KEPT = 16_384;
    private static final int LONGEST_REASON = 1000;

    /** One that is refused, as it was sent. */
    record Refused(Intake.Rejected rejected, String body) {}

    private final List<Refused> told = new ArrayList<>();
    private int count;
    private int nextPlace;

    /** @param body as it was sent; asked for where it is kept only */
    void add(int place, String id, String reason, Supplier<String> body) {
        count++;
        if (told.size() == TOLD) {
            if (count == TOLD + 1) nextPlace = place;
            return;
        }
        var rejected =
                new Intake.Rejected(place, PlainText.of(id), PlainText.cut(PlainText.of(reason), LONGEST_REASON));
        var sent = body.get().replace("\\u0000", "\uFFFD");
        told.add(new Refused(rejected, PlainText.cut(PlainText.of(sent), LONGEST_KEPT)));
    }

    boolean none() {
        return count == 0;
    }

    /** What is kept and told: {@code … and 19,900 more} stands for what is beyond the first hundred. */
    List<Refused> all() {
        if (count <= TOLD) return List.copyOf(told);
        var all = new ArrayList<>(told);
        var more =
                "… and %,d more, from here on; mend the first ones and send all of these again".formatted(count - TOLD);
        all.add(new Refused(new Intake.Rejected(nextPlace, "", more), ""));
        return all;
    }

    List<Intake.Rejected> rejected() {
        return all().stream().map(Refused::rejected).toList();
    }
}
