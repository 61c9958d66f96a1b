package app.morvet.core.shift;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * What people name in their notes: a case as {@code #76} or {@code case 76}, a person as {@code @login}, a component by its key. What is named
 * and not there is text, as is everything else.
 */
public final class Mentions {
    private static final Pattern NAMED = Pattern.compile(
            "(?<![\\w/#@.-])(?:(?:#|[Cc]ase )(\\d{1,15})|@([\\w.-]*\\w)|([A-Za-z][\\w.-]*\\w))(?![\\w/])");

    private Mentions() {}

    /** What is named. */
    public enum Kind {
        TEXT,
        CASE,
        PERSON,
        COMPONENT
    }

    /** @param of the number of the case, the login, or the key; empty for text */
    public record Piece(Kind kind, String words, String of) {}

    /** Whether there is what is named. */
    public record Known(Predicate<Long> cases, Predicate<String> people, Predicate<String> components) {}

    /** The pieces of some words, in their order; put together again they are the words. */
    public static List<Piece> in(String words, Known known) {
        var pieces = new ArrayList<Piece>();
        var named = NAMED.matcher(words);
        int at = 0;
        while (named.find()) {
            var piece = piece(named.group(), named.group(1), named.group(2), named.group(3), known);
            if (piece.kind() == Kind.TEXT) continue;
            if (named.start() > at) pieces.add(new Piece(Kind.TEXT, words.substring(at, named.start()), ""));
            pieces.add(piece);
            at = named.end();
        }
        if (at < words.length()) pieces.add(new Piece(Kind.TEXT, words.substring(at), ""));
        return List.copyOf(pieces);
    }

    private static Piece piece(
            String whole, @Nullable String number, @Nullable String login, @Nullable String key, Known known) {
        if (number != null && known.cases().test(Long.parseLong(number))) return new Piece(Kind.CASE, whole, number);
        if (login != null && known.people().test(login)) return new Piece(Kind.PERSON, whole, login);
        // A key that is a plain word is a word.
        if (key != null && key.matches(".*[\\d._-].*") && known.components().test(key))
            return new Piece(Kind.COMPONENT, whole, key);
        return new Piece(Kind.TEXT, whole, "");
    }

    /** Whether a person is named. */
    public static boolean names(String words, String login) {
        return in(words, new Known(none -> false, login::equals, none -> false)).stream()
                .anyMatch(one -> one.kind() == Kind.PERSON);
    }
}
