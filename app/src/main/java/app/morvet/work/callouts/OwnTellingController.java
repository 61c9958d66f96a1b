package app.morvet.work.callouts;

import app.morvet.core.callouts.Digest;
import app.morvet.core.callouts.Way;
import app.morvet.core.callouts.Wishes;
import app.morvet.ground.access.Audit;
import app.morvet.ground.access.OwnZones;
import app.morvet.ground.access.People;
import app.morvet.ground.access.Person;
import app.morvet.ground.base.Sentence;
import jakarta.servlet.http.HttpServletResponse;
import java.time.DayOfWeek;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.format.DateTimeParseException;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** What each person says of how they are reached and wish to be told, and whether they are reached there. */
@Controller
class OwnTellingController {
    /** A place where somebody is reached, as the page shows it. */
    record Place(String way, String name, String address, OwnReach.Standing standing) {}

    private final People people;
    private final WishStore store;
    private final OwnReach reach;
    private final OwnZones zones;
    private final Audit audit;

    OwnTellingController(People people, WishStore store, OwnReach reach, OwnZones zones, Audit audit) {
        this.people = people;
        this.store = store;
        this.reach = reach;
        this.zones = zones;
        this.audit = audit;
    }

    @GetMapping("/me/told")
    String page(
            @RequestParam(required = false) @Nullable String saved, @AuthenticationPrincipal Person who, Model model) {
        return page(who, typed(who), saved, null, model);
    }

    private String page(
            Person who, Map<String, String> typed, @Nullable String saved, @Nullable String refusal, Model model) {
        var card = card(who);
        model.addAttribute("card", card);
        model.addAttribute(
                "addresses",
                List.of(
                        new Place("mail", "Mail", card.mail(), reach.standing(card, Way.MAIL)),
                        new Place("text", "Text message", card.phone(), reach.standing(card, Way.TEXT))));
        model.addAttribute("typed", typed);
        model.addAttribute("days", DayOfWeek.values());
        model.addAttribute("zones", OwnZones.choices());
        model.addAttribute("saved", saved);
        model.addAttribute("refusal", refusal);
        return "me-told";
    }

    private People.Card card(Person who) {
        return people.card(who.id()).orElseThrow();
    }

    private Map<String, String> typed(Person who) {
        var fields = typed(store.of(who.id()));
        fields.put("zone", zones.of(who.id()).map(ZoneId::getId).orElse(""));
        return fields;
    }

    private static Map<String, String> typed(Wishes wishes) {
        var fields = new HashMap<String, String>();
        fields.put("first", wishes.first() == null ? "" : wishes.first().name());
        boolean quiet = wishes.quietFrom() != null;
        fields.put("quiet", quiet ? "yes" : "");
        fields.put("quietFrom", quiet ? "" + wishes.quietFrom() : "22:00");
        fields.put("quietTo", quiet ? "" + wishes.quietTo() : "06:00");
        var digest = wishes.digest();
        fields.put("digest", digest == null ? "" : digest.every().name());
        fields.put(
                "digestDay",
                digest == null ? DayOfWeek.MONDAY.name() : digest.day().name());
        fields.put("noWindows", wishes.windows() ? "" : "yes");
        fields.put("digestAt", digest == null ? "07:00" : digest.at().toString());
        return fields;
    }

    @PostMapping("/me/told/addresses")
    String addresses(
            @RequestParam(defaultValue = "") String mail,
            @RequestParam(defaultValue = "") String phone,
            @AuthenticationPrincipal Person who,
            HttpServletResponse response,
            Model model) {
        try {
            people.reach(who, mail, phone);
            return "redirect:/me/told?saved=reach";
        } catch (IllegalArgumentException wrong) {
            return refused(who, typed(who), wrong, response, model);
        }
    }

    private String refused(
            Person who,
            Map<String, String> typed,
            IllegalArgumentException wrong,
            HttpServletResponse response,
            Model model) {
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        return page(who, typed, null, Sentence.of(wrong), model);
    }

    @PostMapping("/me/told/{way}/code")
    String code(
            @PathVariable String way, @AuthenticationPrincipal Person who, HttpServletResponse response, Model model) {
        try {
            reach.send(card(who), way(way));
            return "redirect:/me/told?saved=sent";
        } catch (IllegalArgumentException wrong) {
            return refused(who, typed(who), wrong, response, model);
        }
    }

    @PostMapping("/me/told/{way}/verified")
    String verified(
            @PathVariable String way,
            @RequestParam(defaultValue = "") String code,
            @AuthenticationPrincipal Person who,
            HttpServletResponse response,
            Model model) {
        try {
            reach.verify(who, people.card(who.id()), way(way), code);
            return "redirect:/me/told?saved=verified";
        } catch (IllegalArgumentException wrong) {
            return refused(who, typed(who), wrong, response, model);
        }
    }

    private static Way way(String name) {
        return switch (name) {
            case "mail" -> Way.MAIL;
            case "text" -> Way.TEXT;
            default -> throw new ResponseStatusException(HttpStatus.NOT_FOUND, "People are told by mail or by text.");
        };
    }

    @PostMapping("/me/told")
    @Transactional
    public String wishes(
            @RequestParam Map<String, String> sent,
            @AuthenticationPrincipal Person who,
            HttpServletResponse response,
            Model model) {
        try {
            var before = store.of(who.id());
            var wishes = read(sent);
            zones.set(who, sent.getOrDefault("zone", ""));
            store.keep(who.id(), wishes);
            if (!before.equals(wishes))
                audit.record(who, "wishes changed", "person " + who.name(), before.words(), wishes.words());
            return "redirect:/me/told?saved=wishes";
        } catch (IllegalArgumentException wrong) {
            var typed = typed(Wishes.NONE);
            typed.putAll(sent);
            return refused(who, typed, wrong, response, model);
        }
    }

    private static Wishes read(Map<String, String> sent) {
        boolean quiet = sent.getOrDefault("quiet", "").equals("yes");
        var every = sent.getOrDefault("digest", "");
        return new Wishes(
                one(Way.values(), sent.get("first")).orElse(null),
                quiet ? time(sent.get("quietFrom"), "quiet hours begin") : null,
                quiet ? time(sent.get("quietTo"), "quiet hours end") : null,
                one(Digest.Every.values(), every)
                        .map(it -> it == Digest.Every.HOUR
                                ? Digest.hourly()
                                : new Digest(
                                        it,
                                        one(DayOfWeek.values(), sent.get("digestDay"))
                                                .orElse(DayOfWeek.MONDAY),
                                        time(sent.get("digestAt"), "it is told")))
                        .orElse(null),
                !sent.getOrDefault("noWindows", "").equals("yes"));
    }

    private static <E extends Enum<E>> Optional<E> one(E[] all, @Nullable String name) {
        return Arrays.stream(all).filter(it -> it.name().equals(name)).findFirst();
    }

    private static LocalTime time(@Nullable String text, String what) {
        try {
            return LocalTime.parse(text == null ? "" : text);
        } catch (DateTimeParseException none) {
            throw new IllegalArgumentException("say when " + what + ", such as 22:00", none);
        }
    }
}
