package app.morvet.views.shift;

import app.morvet.ground.access.Person;
import app.morvet.ground.base.Sentence;
import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Files;
import app.morvet.ground.page.FixNotes;
import app.morvet.ground.page.Live;
import app.morvet.ground.page.Logged;
import app.morvet.ground.page.Times;
import jakarta.servlet.http.HttpServletResponse;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** The log of the shift, which writes itself, with what people add to it; and the handover. */
@Controller
class ShiftLogController {
    private static final Instant NEVER = Instant.parse("9999-01-01T00:00:00Z");
    private static final int MOST = 200;
    /** Who looks for words looks back as far. */
    private static final Duration FOUND_IN = Duration.ofDays(400);

    /** @param here where it is to be found for ever */
    record LineRow(
            String at,
            String who,
            String kind,
            String words,
            String link,
            List<NoteWords.Piece> pieces,
            String here,
            boolean asked) {}

    record NoteRow(long id, String at, String who, List<NoteWords.Piece> pieces, boolean due) {}

    /** @param version 0 where nothing is written yet */
    record Page(long id, int version, String words, String html, String by, String taken) {}

    private final List<Logged> sources;
    private final ShiftNotes notes;
    private final NoteWords noteWords;
    private final Handovers handovers;
    private final Estate estate;
    private final FixNotes markdown;
    private final Live live;
    private final Times times;

    ShiftLogController(
            List<Logged> sources,
            ShiftNotes notes,
            NoteWords noteWords,
            Handovers handovers,
            Estate estate,
            FixNotes markdown,
            Live live,
            Times times) {
        this.sources = sources;
        this.notes = notes;
        this.noteWords = noteWords;
        this.handovers = handovers;
        this.estate = estate;
        this.markdown = markdown;
        this.live = live;
        this.times = times;
    }

    @GetMapping("/shift/log")
    String log(
            @RequestParam(defaultValue = "") String day,
            @RequestParam(defaultValue = "") String words,
            @RequestParam(defaultValue = "") String until,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            Model model) {
        fill(day, words, instant(until), model);
        return "shift-log-rows".equals(target) ? "shift-log-parts :: rows" : "shift-log";
    }

    private static @Nullable Instant instant(String until) {
        try {
            var at = until.isEmpty() ? null : Instant.parse(until);
            if (at != null && (at.isBefore(Instant.EPOCH) || !at.isBefore(NEVER)))
                throw new DateTimeException("there is no log of then");
            return at;
        } catch (DateTimeException none) {
            throw new ResponseStatusException(
                    HttpStatus.BAD_REQUEST, "until is an instant such as 2027-03-18T04:38:00Z.", none);
        }
    }

    /** @param until the line that is asked for: the log of its day up to it */
    private void fill(String asked, String words, @Nullable Instant until, Model model) {
        var pieces = noteWords.reader();
        var now = times.now();
        var today = LocalDate.ofInstant(now, times.zone());
        var day = until == null ? day(asked, today) : LocalDate.ofInstant(until, times.zone());
        var from = words.isBlank() ? day.atStartOfDay(times.zone()).toInstant() : now.minus(FOUND_IN);
        var end = day.plusDays(1).atStartOfDay(times.zone()).toInstant();
        // What is still to come is no part of a log.
        var to = until != null ? until.plusMillis(1) : words.isBlank() && end.isBefore(now) ? end : now.plusSeconds(1);
        var lines = sources.stream()
                .flatMap(one -> one.logged(from, to, words, MOST + 1).stream())
                .sorted(Comparator.comparing(Logged.Line::at).reversed())
                .limit(MOST + 1L)
                .toList();
        model.addAttribute("day", day.toString());
        model.addAttribute("dayWords", day.equals(today) ? "Today" : day.toString());
        model.addAttribute("earlier", day.minusDays(1).toString());
        model.addAttribute("later", day.isBefore(today) ? day.plusDays(1).toString() : "");
        model.addAttribute("words", words);
        model.addAttribute("until", until == null ? "" : until.toString());
        model.addAttribute("cut", lines.size() > MOST);
        model.addAttribute(
                "lines",
                lines.stream()
                        .limit(MOST)
                        .map(one -> new LineRow(
                                times.of(one.at()),
                                one.who(),
                                one.kind(),
                                one.words(),
                                one.link(),
                                one.kind().equals("note") ? pieces.apply(one.words()) : List.of(),
                                one.at().toString(),
                                until != null && !one.at().isBefore(until.minusMillis(1))))
                        .toList());
        model.addAttribute(
                "toLookAt",
                notes.toLookAt().stream()
                        .map(one -> new NoteRow(
                                one.id(),
                                times.of(one.remind()),
                                one.who(),
                                pieces.apply(one.words()),
                                one.remind() != null && !one.remind().isAfter(now)))
                        .toList());
    }

    private static LocalDate day(String typed, LocalDate today) {
        try {
            var day = typed.isEmpty() ? today : LocalDate.parse(typed);
            return day.isAfter(today) || day.getYear() < 2000 ? today : day;
        } catch (DateTimeException none) {
            return today;
        }
    }

    @PostMapping("/shift/notes")
    String note(
            @RequestParam(defaultValue = "") String note,
            @RequestParam(defaultValue = "false") boolean handover,
            @RequestParam(defaultValue = "") String remind,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        try {
            var now = times.now();
            notes.write(by.id(), note, handover, at(remind, now), now);
            live.changed(ShiftNotes.TOPIC);
            return "redirect:/shift/log";
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            model.addAttribute("refusal", Sentence.of(wrong));
            model.addAttribute("note", note);
            model.addAttribute("forHandover", handover);
            model.addAttribute("remind", remind);
            fill("", "", null, model);
            return "shift-log";
        }
    }

    /** The next time that the clock shows this. */
    private @Nullable Instant at(String typed, Instant now) {
        if (typed.isEmpty()) return null;
        try {
            var time = LocalTime.parse(typed);
            var today = LocalDate.ofInstant(now, times.zone()).atTime(time).atZone(times.zone());
            return (today.toInstant().isAfter(now) ? today : today.plusDays(1)).toInstant();
        } catch (DateTimeException none) {
            throw new IllegalArgumentException("say when to look again, such as 05:00", none);
        }
    }

    @PostMapping("/shift/notes/{id}/done")
    String done(@PathVariable long id, @AuthenticationPrincipal Person by) {
        notes.done(id, by.id(), times.now());
        live.changed(ShiftNotes.TOPIC);
        return "redirect:/shift/log";
    }

    @GetMapping("/shift/handover")
    String handover(
            @RequestParam(defaultValue = "false") boolean anew, @AuthenticationPrincipal Person reader, Model model) {
        var waiting = handovers.waiting().orElse(null);
        var words = waiting == null || anew ? handovers.draft(reader) : waiting.words();
        return handover(waiting, words, null, model);
    }

    private String handover(Handovers.@Nullable Written waiting, String words, @Nullable String refusal, Model model) {
        model.addAttribute("page", page(waiting, words));
        model.addAttribute("last", handovers.taken().map(this::page).orElse(null));
        model.addAttribute("refusal", refusal);
        model.addAttribute("teams", estate.teams());
        return "shift-handover";
    }

    private Page page(Handovers.Written one) {
        return page(one, one.words());
    }

    private Page page(Handovers.@Nullable Written one, String words) {
        return new Page(
                one == null ? 0 : one.id(),
                one == null ? 0 : one.version(),
                words,
                markdown.html(words),
                one == null ? "" : one.by() + ", " + times.of(one.at()),
                one == null || one.taken() == null ? "" : one.takenBy() + " took over at " + times.of(one.taken()));
    }

    @PostMapping("/shift/handover")
    String write(
            @RequestParam(defaultValue = "") String words,
            @RequestParam(defaultValue = "0") int version,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            Model model) {
        try {
            handovers.write(by.id(), words, version, times.now());
            live.changed(ShiftNotes.TOPIC);
            return "redirect:/shift/handover";
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            return handover(handovers.waiting().orElse(null), words, Sentence.of(wrong), model);
        }
    }

    @PostMapping("/shift/handover/send")
    String send(
            @RequestParam(defaultValue = "") String team,
            @RequestParam(defaultValue = "") String address,
            @AuthenticationPrincipal Person by,
            HttpServletResponse response,
            RedirectAttributes flash,
            Model model) {
        try {
            flash.addFlashAttribute("sentTo", handovers.send(team, address, by, times.now()));
            return "redirect:/shift/handover";
        } catch (IllegalArgumentException wrong) {
            response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
            var waiting = handovers.waiting().orElse(null);
            model.addAttribute("address", address);
            return handover(
                    waiting, waiting == null ? handovers.draft(by) : waiting.words(), Sentence.of(wrong), model);
        }
    }

    @GetMapping("/shift/handover/{id}")
    String one(@PathVariable long id, Model model) {
        var versions = handovers.versions(id);
        if (versions.isEmpty())
            throw new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no handover " + id + ".");
        model.addAttribute("versions", versions.stream().map(this::page).toList());
        return "shift-handover-one";
    }

    @GetMapping("/shift/handover/{id}.md")
    ResponseEntity<byte[]> file(@PathVariable long id) {
        var versions = handovers.versions(id);
        if (versions.isEmpty())
            throw new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no handover " + id + ".");
        return Files.out(
                "handover-" + id + ".md", "text/markdown", versions.getFirst().words());
    }

    @GetMapping("/shift/handover/{id}.pdf")
    ResponseEntity<byte[]> paper(@PathVariable long id) {
        var versions = handovers.versions(id);
        if (versions.isEmpty())
            throw new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no handover " + id + ".");
        return Files.pdf(
                "handover-" + id + ".pdf", HandoverPdf.of(versions.getFirst().words()));
    }
}
