package app.morvet.core.messages;

import app.morvet.core.messages.Skeleton.Mark;
import java.util.regex.Pattern;

/**
 * Reads what names somebody or something and stands without quotes: people, firms, ships, logins, machines, routes, currencies,
 * and one of a row that is lettered.
 */
abstract class NameReading extends NumberReading {
    /** Two harbours, or two currencies. */
    private static final Pattern PAIR = Pattern.compile("\\p{Lu}{3}[-/>→]\\p{Lu}{3}(?![\\p{L}\\p{N}_]|[/-]\\p{L})");
    /** Letters with figures or signs among them, up to a blank. */
    private static final Pattern LOGIN = Pattern.compile(
            "(?=\\p{L}++[\\p{N}._-])(?![^ ]*?\\p{Ll}\\p{Lu})[\\p{L}\\p{N}]++(?:[._-][\\p{L}\\p{N}]++)*+(?=[ ,;:)]|$)");

    private static final Pattern MACHINE = Pattern.compile("[a-z][a-z0-9]*+(?:-[a-z0-9]++)++(?![\\p{L}\\p{N}._@-])");
    /** Somebody with the first letter of a given name: {@code K. Laine}. */
    private static final Pattern INITIALLED =
            Pattern.compile("(?:\\p{Lu}\\.[ -]?)++\\p{Lu}\\p{Ll}++(?:-\\p{Lu}\\p{Ll}++)?+(?![\\p{L}\\p{N}_.(=])");
    /** Somebody by whom it was done. */
    private static final Pattern ACTOR = Pattern.compile("\\p{Ll}++\\.\\p{Ll}++(?=[ ,;)]|$)");
    /** Somebody within a domain, as {@code SUNDRAVA\svc_hub}. */
    private static final Pattern OF_DOMAIN = Pattern.compile("\\p{Lu}[\\p{Lu}\\p{N}-]++\\\\[\\p{L}\\p{N}._$-]++");
    /** Who it is about, in brackets behind a number of theirs. */
    private static final Pattern BRACKETED = Pattern.compile(
            "\\(\\p{Lu}\\p{Ll}++(?:-\\p{Lu}?\\p{Ll}++)*+, \\p{Lu}\\p{Ll}++(?:[- ]\\p{Lu}\\p{Ll}++)*+\\)");

    NameReading(String line, Skeleton skeleton) {
        super(line, skeleton);
    }

    /** A name, a currency, one of a row that is lettered, or one of the values there are. */
    boolean named(String word) {
        int end = nameEnd(word);
        if (end > at) {
            mark(Mark.TEXT, end);
            return true;
        }
        end = at + word.length();
        if (!lettered(end) && !NameWords.CURRENCIES.contains(word) && !oneOfValues(end)) return false;
        mark(Mark.ID, end);
        return true;
    }

    private int nameEnd(String word) {
        int initialled = word.length() == 1 && line.startsWith(".", at + 1) ? endOf(INITIALLED) : at;
        if (initialled > at || !NameWords.announce(last, earlier) || !near()) return initialled;
        return NameWords.end(line, at, lastEnd == last.length());
    }

    private boolean near() {
        return lastEnd < at && before().near();
    }

    private boolean lettered(int end) {
        if (end - at > 1) return false;
        return NameWords.LETTERED.contains(last) && near()
                || line.startsWith(":\\", end)
                || line.startsWith("[", at - 1) && line.startsWith("]", end);
    }

    /** A word in capitals behind what it is one of, as in {@code role PURSER} or {@code discount code WINTER26}. */
    boolean oneOfValues(int end) {
        boolean announced = NameWords.VALUED.contains(last) || last.equals("code") && !before().announces();
        if (!announced || !behindBlank() || end - at < 2) return false;
        for (int i = at; i < end; i++)
            if (!Character.isUpperCase(line.charAt(i)) && !Character.isDigit(line.charAt(i))) return false;
        return end - at == 2 || !NameWords.ordinary(line.substring(at, end));
    }

    /** By what name somebody logs in, where it is not written as words are, or follows <em>for user</em>. */
    boolean login(int end) {
        int to = loginEnd(end);
        if (to == at) return false;
        mark(Mark.TEXT, to);
        return true;
    }

    private int loginEnd(int end) {
        if (line.startsWith("svc_", at)) return endOf(LOGIN);
        if (line.startsWith("\\", end)) return endOf(OF_DOMAIN);
        if (!behindBlank()) return at;
        boolean user = NameWords.PEOPLE.contains(last);
        if (!user && !last.equals("by")) return at;
        if (!user) return NameWords.BY_WHAT.contains(earlier) ? at : endOf(ACTOR);
        int to = endOf(LOGIN);
        boolean word = earlier.equals("for")
                && Character.isLowerCase(line.charAt(at))
                && !NameWords.ordinary(line.substring(at, end));
        return to == at && word ? end : to;
    }

    private int endOf(Pattern pattern) {
        var found = found(pattern);
        return found == null ? at : found.end();
    }

    boolean bracketed() {
        var name = found(BRACKETED);
        if (name == null) return false;
        plainTo(at + 1);
        mark(Mark.TEXT, name.end() - 1);
        return true;
    }

    boolean pair() {
        var pair = found(PAIR);
        if (pair == null) return false;
        int end = pair.end();
        boolean directed = "-/".indexOf(line.charAt(at + 3)) < 0;
        boolean beforeNumber =
                line.startsWith(":", end) && end + 1 < line.length() && Character.isDigit(line.charAt(end + 1));
        boolean behindNumber =
                at > 1 && "/-".indexOf(line.charAt(at - 1)) >= 0 && Character.isDigit(line.charAt(at - 2));
        if (!directed && !beforeNumber && !behindNumber && !(NameWords.PAIRED.contains(last) && before().near()))
            return false;
        mark(Mark.ID, end);
        return true;
    }

    /** One of several of a name ({@code hub-b}), or the name of a machine behind what says so ({@code node hub-west}). */
    boolean machine(int end) {
        if (standsAlone(end + 1) && end - at > 1) {
            plainTo(end + 1);
            mark(Mark.NUMBER, at + 1);
            return true;
        }
        if (!NameWords.MACHINES.contains(last) || !near()) return false;
        var found = found(MACHINE);
        if (found == null) return false;
        mark(Mark.HOST, found.end());
        return true;
    }

    private boolean standsAlone(int place) {
        if (place >= line.length() || line.charAt(place) < 'a' || line.charAt(place) > 'z') return false;
        if (Character.isUpperCase(line.charAt(at))) return false;
        return place + 1 == line.length() || !isWord(line.charAt(place + 1)) && line.charAt(place + 1) != '-';
    }
}
