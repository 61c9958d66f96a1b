package app.morvet.ground.page;

import jakarta.servlet.http.HttpServletRequest;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.GrantedAuthority;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.ControllerAdvice;
import org.springframework.web.bind.annotation.CookieValue;
import org.springframework.web.bind.annotation.ModelAttribute;

/** What the frame of every whole page needs. A fragment fetched by htmx has no frame and asks for none of it. */
@ControllerAdvice(annotations = org.springframework.stereotype.Controller.class)
class PageAdvice {
    private final NowLine nowLine;
    private final List<Place> places;
    private final Times times;
    private final Live live;
    private final Assets assets;

    PageAdvice(NowLine nowLine, List<Place> places, Times times, Live live, Assets assets) {
        this.nowLine = nowLine;
        this.live = live;
        this.assets = assets;
        this.places =
                places.stream().sorted(Comparator.comparing(Place::number)).toList();
        this.times = times;
    }

    @ModelAttribute("nowMillis")
    long nowMillis() {
        return times.now().toEpochMilli();
    }

    @ModelAttribute("zone")
    String zone() {
        return times.zoneName();
    }

    @ModelAttribute("places")
    List<Place> places() {
        return places;
    }

    @ModelAttribute("me")
    String me(@Nullable Authentication who) {
        return who == null ? "" : who.getName();
    }

    @ModelAttribute("rights")
    List<String> rights(@Nullable Authentication who) {
        return who == null
                ? List.of()
                : who.getAuthorities().stream()
                        .map(GrantedAuthority::getAuthority)
                        .filter(Objects::nonNull)
                        .toList();
    }

    @ModelAttribute("path")
    String path(HttpServletRequest request) {
        return request.getRequestURI();
    }

    /** Where styles and scripts are. */
    @ModelAttribute("assets")
    String assets() {
        return assets.path();
    }

    @ModelAttribute("paper")
    String paper(@CookieValue(name = "paper", defaultValue = "system") String paper) {
        return paper.matches("light|dark") ? paper : "system";
    }

    /** Whether keys of one letter do anything in this browser: whoever speaks to it, or has a cat, switches them off. */
    @ModelAttribute("keys")
    String keys(@CookieValue(name = "keys", defaultValue = "on") String keys) {
        return keys.equals("off") ? "off" : "on";
    }

    /** Whether the reader does the work of a shift: those of a team see what is handed to them and what is their own. */
    @ModelAttribute("works")
    boolean works(@Nullable Authentication who) {
        return rights(who).contains("WORK");
    }

    @ModelAttribute("nowTopics")
    String nowTopics() {
        return nowLine.topics();
    }

    /** In this order: what changes once the mark is taken is heard of, and what changed before stands on the line. */
    @ModelAttribute
    void now(HttpServletRequest request, @Nullable Authentication who, Model model) {
        model.addAttribute("drawn", live.mark());
        NowLine.show(framed(request, who) ? nowLine.line() : NowLine.NONE, model);
    }

    /** Also what is shown after a form was sent has the line, and must not say that nothing needs eyes. */
    private boolean framed(HttpServletRequest request, @Nullable Authentication who) {
        return works(who)
                && request.getHeader("HX-Request") == null
                && !request.getRequestURI().startsWith("/api/")
                && !request.getRequestURI().equals("/login")
                && !request.getRequestURI().startsWith("/live");
    }
}
