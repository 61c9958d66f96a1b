package app.morvet.sources.messages;

import app.morvet.ground.estate.Estate;
import app.morvet.ground.page.Times;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.format.DateTimeParseException;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.web.util.UriComponentsBuilder;

/** Reads queries for failed messages from the parameters of an address, and writes them. */
@Component
public class MessageQueries {
    static final Duration WITHOUT_SPAN = Duration.ofDays(90);

    private final Estate estate;
    private final Masks masks;
    private final Times times;

    MessageQueries(Estate estate, Masks masks, Times times) {
        this.estate = estate;
        this.masks = masks;
        this.times = times;
    }

    /**
     * Without a span, the last 90 days.
     *
     * @throws IllegalArgumentException where something in it is not there or cannot be read; says what
     */
    public MessageQuery of(Map<String, String> asked) {
        var key = asked.getOrDefault("interface", "");
        var subject = key.isEmpty()
                ? null
                : estate.byKey(key)
                        .orElseThrow(() -> new IllegalArgumentException("There is no interface " + key + "."));
        var businessKey = asked.getOrDefault("key", "");
        var masking = subject == null ? masks.anywhere() : masks.on(subject.key());
        if (masking.text(businessKey).hidden() > 0)
            throw new IllegalArgumentException(
                    "This business key looks like what is masked, and whether it is found would tell it. Search for words instead.");
        // A little ahead, since what is told may be.
        var now = times.now().plus(Duration.ofHours(1));
        var from = asked.getOrDefault("from", "");
        var to = asked.getOrDefault("to", "");
        return new MessageQuery(
                subject == null ? null : subject.id(),
                number("family", asked),
                number("rule", asked),
                MessageQuery.State.of(asked.getOrDefault("state", "")),
                businessKey,
                asked.getOrDefault("q", ""),
                from.isEmpty() ? since(asked.getOrDefault("days", ""), now) : instant(from),
                to.isEmpty() ? now : instant(to));
    }

    private Instant since(String days, Instant now) {
        if (days.equals("1"))
            return times.now()
                    .atZone(times.zone())
                    .toLocalDate()
                    .atStartOfDay(times.zone())
                    .toInstant();
        if (days.matches("\\d{1,3}")) return now.minus(Duration.ofDays(Math.clamp(Long.parseLong(days), 1, 400)));
        return now.minus(WITHOUT_SPAN);
    }

    private Instant instant(String text) {
        try {
            return LocalDateTime.parse(text).atZone(times.zone()).toInstant();
        } catch (DateTimeParseException wrong) {
            throw new IllegalArgumentException(
                    "\"" + text + "\" is no time. Write it such as 2026-11-24T06:40.", wrong);
        }
    }

    private static @Nullable Long number(String name, Map<String, String> asked) {
        var text = asked.getOrDefault(name, "");
        if (text.isEmpty()) return null;
        if (!text.matches("\\d{1,18}")) throw new IllegalArgumentException("There is no " + name + " " + text + ".");
        return Long.valueOf(text);
    }

    /** Where a saved search is shown. */
    String address(Map<String, String> asked) {
        var uri = UriComponentsBuilder.fromPath("/messages/search");
        asked.forEach((name, value) -> uri.queryParam(name, "{" + name + "}"));
        return uri.encode().buildAndExpand(asked).toUriString();
    }
}
