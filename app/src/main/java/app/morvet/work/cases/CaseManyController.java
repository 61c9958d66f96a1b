package app.morvet.work.cases;

import app.morvet.core.cases.SettleReason;
import app.morvet.ground.access.Person;
import app.morvet.ground.page.Times;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** What is done to many cases at once: to each as if it were done to it alone, and taken back at once. */
@Controller
class CaseManyController {
    private static final Duration QUIET = Duration.ofHours(1);
    private static final int MOST = 200;

    private final CaseBook book;
    private final CaseJoining joining;
    private final Times times;

    CaseManyController(CaseBook book, CaseJoining joining, Times times) {
        this.book = book;
        this.joining = joining;
        this.times = times;
    }

    /** What is done to one, by its id and the version that was seen; gives back the entry of its log, or 0 where it cannot be undone. */
    private interface Act {
        long to(long id, int version);
    }

    /** @param pick each {@code id:version}, as the list had it */
    @PostMapping("/cases/many")
    String many(
            @RequestParam(defaultValue = "") List<String> pick,
            @RequestParam(defaultValue = "") String act,
            @RequestParam(defaultValue = "") String reason,
            @RequestParam(defaultValue = "") String words,
            @RequestParam(defaultValue = "0") long to,
            @AuthenticationPrincipal Person by,
            Model model) {
        if (act.equals("merge") && (pick.size() < 2 || !pick.getFirst().matches("\\d{1,18}:\\d{1,9}")))
            return said("Nothing was done.", List.of(), List.of("Choose two or more to merge."), model);
        if (pick.size() > MOST)
            throw new ResponseStatusException(HttpStatus.BAD_REQUEST, "At most %d at once.".formatted(MOST));
        var now = times.now();
        Act one =
                switch (act) {
                    case "take" -> (id, version) -> book.take(id, version, by, now);
                    case "give" -> (id, version) -> book.give(id, version, by, to, now);
                    case "quiet" -> (id, version) -> book.quiet(id, version, by, now.plus(QUIET), words, now);
                    case "settle" -> (id, version) -> book.settle(id, version, by, chosen(reason), words, now);
                    case "note" ->
                        (id, version) -> {
                            book.note(id, by, words, now);
                            return 0;
                        };
                    case "merge" -> (id, version) -> merge(id, version, pick.getFirst(), by, now);
                    default -> throw new ResponseStatusException(HttpStatus.BAD_REQUEST, "Say what is to be done.");
                };
        var entries = new ArrayList<Long>();
        var refusals = new ArrayList<String>();
        int done = 0;
        for (var it : pick) {
            var parts = it.split(":", 2);
            if (!it.matches("\\d{1,18}:\\d{1,9}")) continue;
            long id = Long.parseLong(parts[0]);
            try {
                if (book.find(id).isEmpty()) continue;
                long entry = one.to(id, Integer.parseInt(parts[1]));
                if (entry > 0) entries.add(entry);
                done++;
            } catch (Overtaken | IllegalArgumentException not) {
                refusals.add("Case %d: %s".formatted(id, not.getMessage()));
            }
        }
        return said(done + (done == 1 ? " case: " : " cases: ") + words(act) + ".", entries, refusals, model);
    }

    /** All but the first become parts of the first. */
    private long merge(long id, int version, String first, Person by, Instant now) {
        long into = Long.parseLong(first.split(":", 2)[0]);
        if (id != into) joining.join(id, version, into, false, by, now);
        return 0;
    }

    private static SettleReason chosen(String name) {
        return SettleReason.choices().stream()
                .filter(one -> one.name().equals(name))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("Choose as what to settle it."));
    }

    private static String words(String act) {
        return switch (act) {
            case "take" -> "taken";
            case "give" -> "given";
            case "quiet" -> "quiet for an hour";
            case "settle" -> "settled";
            case "merge" -> "one now";
            default -> "noted";
        };
    }

    private static String said(String words, List<Long> entries, List<String> refusals, Model model) {
        model.addAttribute("doneWords", words);
        model.addAttribute("entries", entries);
        model.addAttribute("refusals", refusals);
        return "case-parts :: manySaid";
    }

    @PostMapping("/cases/many/undo")
    String undo(@RequestParam(defaultValue = "") List<Long> entry, @AuthenticationPrincipal Person by, Model model) {
        var refusals = new ArrayList<String>();
        int back = 0;
        for (long one : entry.stream().limit(MOST).toList()) {
            try {
                book.undo(one, by, times.now());
                back++;
            } catch (Overtaken not) {
                refusals.add(String.valueOf(not.getMessage()));
            }
        }
        return said(back + (back == 1 ? " case is" : " cases are") + " as before.", List.of(), refusals, model);
    }
}
