package app.morvet.core.messages;

import app.morvet.core.messages.Skeleton.Mark;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Reads what names a place: addresses, hosts, ports, mailboxes, and ids that are made to be unlike any other.
 */
abstract class PlaceReading extends Cursor {
    private static final Pattern HARDWARE = Pattern.compile("[0-9a-fA-F]{2}(?:-[0-9a-fA-F]{2}){5}(?![\\p{L}\\p{N}-])");
    /** Three pairs with a letter among them at least: others are times. */
    private static final Pattern SERIAL = Pattern.compile(
            "(?=[0-9:]{0,60}+[a-fA-F])[0-9a-fA-F]{2}(?::[0-9a-fA-F]{2}){2,19}(?![\\p{L}\\p{N}:])|[0-9a-fA-F]{2}(?::[0-9a-fA-F]{2}){5}(?![\\p{L}\\p{N}:])");

    private static final Pattern IPV6 = Pattern.compile(
            "(?=[0-9a-fA-F:.]{0,45}+(?:[^0-9a-zA-Z:.]|$|%))(?:(?:[0-9a-fA-F]{1,4}:){7}[0-9a-fA-F]{1,4}|(?=[0-9a-fA-F:]*\\d)(?:[0-9a-fA-F]{1,4}(?::[0-9a-fA-F]{1,4}){0,6})?::(?:[0-9a-fA-F]{1,4}(?::[0-9a-fA-F]{1,4}){0,6})?)(?:(?<=:)\\d{1,3}(?:\\.\\d{1,3}){3})?(?:%\\w++)?+");
    private static final Pattern ADDRESS = Pattern.compile(
            "([a-zA-Z][a-zA-Z0-9+.-]{1,12}+://)([^\\s\"'<>)\\]},;:/?#]*+)(?::(\\d{2,5})(?!\\d))?+([^\\s\"'<>)\\]},;]*+)");
    private static final Pattern PORT = Pattern.compile(":(\\d{2,5})(?![\\p{L}\\p{N}]|[.:]\\p{N})");
    /** The machine itself with a port, without the brackets that an address of IPv6 should have then. */
    private static final Pattern OWN_PORT = Pattern.compile("(::1):\\d{2,5}(?![\\p{L}\\p{N}:])");

    private static final Pattern MAIL_DOMAIN = Pattern.compile("@[\\p{L}\\p{N}-]++(?:\\.[\\p{L}\\p{N}-]++)*+");
    private static final Pattern TOKEN =
            Pattern.compile("[A-Za-z0-9+/_-]{20,}+={0,2}(?:\\.[A-Za-z0-9+/_-]{4,}+={0,2}){0,2}");
    private static final Pattern UUID =
            Pattern.compile("[0-9a-fA-F]{8}-(?:[0-9a-fA-F]{4}-){3}[0-9a-fA-F]{12}(?![\\p{L}\\p{N}])");
    private static final Set<String> NETWORK = Set.of(
            "http",
            "https",
            "ws",
            "wss",
            "ftp",
            "ftps",
            "sftp",
            "scp",
            "ssh",
            "tcp",
            "udp",
            "ssl",
            "tls",
            "amqp",
            "amqps",
            "mqtt",
            "ldap",
            "ldaps",
            "smb",
            "nfs",
            "s3",
            "file",
            "redis",
            "mongodb",
            "postgresql",
            "mysql",
            "jdbc",
            "smtp",
            "imap");
    private static final Pattern STANDARD = Pattern.compile(
            "(?:(?i:windows|iso|utf|cp)-?\\d++(?:-\\d++)?+|us-ascii|[a-z]{2}[_-][A-Z]{2}|(?:Europe|America|Asia|Africa|Australia|Pacific|Atlantic|Indian|Etc)/\\p{Lu}[\\p{L}_/]++)(?![\\p{L}\\p{N}_-])");
    private static final Pattern SHARE =
            Pattern.compile("\\\\{2,4}[\\p{L}\\p{N}._-]++(?:\\\\{1,2}[\\p{L}\\p{N}._$-]++)++");
    private static final Pattern DEVICE =
            Pattern.compile("(?:[shv]d|xvd)[a-z]\\d*+|nvme\\d++n\\d++(?:p\\d++)?+|tty\\p{Lu}*+\\d++");
    private static final Set<String> DATA = Set.of(
            "csv", "xml", "json", "txt", "dat", "edi", "gz", "zip", "tar", "tgz", "pdf", "xlsx", "xls", "bak", "tmp",
            "fin", "asc");
    private static final Set<String> TOP_DOMAINS = Set.of(
            "example",
            "com",
            "net",
            "org",
            "local",
            "localdomain",
            "internal",
            "lan",
            "corp",
            "intra",
            "fi",
            "eu",
            "io",
            "dev",
            "cloud",
            "test",
            "svc",
            "invalid",
            "home",
            "arpa",
            "ee",
            "se",
            "no",
            "dk");

    PlaceReading(String line, Skeleton skeleton) {
        super(line, skeleton);
    }

    boolean uuid() {
        if (at + 36 > line.length() || line.charAt(at + 8) != '-' || line.charAt(at + 13) != '-') return false;
        var found = found(UUID);
        if (found == null) return false;
        mark(Mark.ID, found.end());
        return true;
    }

    /** Of a network card, or the serial number of a certificate. */
    boolean hardware() {
        if (at + 8 > line.length() || line.charAt(at + 2) != line.charAt(at + 5)) return false;
        if (line.charAt(at + 2) != ':' && line.charAt(at + 2) != '-') return false;
        var found = found(line.charAt(at + 2) == ':' ? SERIAL : HARDWARE);
        if (found == null) return false;
        mark(Mark.ID, found.end());
        return true;
    }

    boolean address() {
        int colon = wordEnd(at);
        if (!line.startsWith("://", colon)) return false;
        var found = found(ADDRESS);
        if (found == null) return false;
        if (isWithin(found)) {
            plainTo(trimmed(found.end()));
            return true;
        }
        var port = found.group(3);
        if (port == null || !Codes.port(port)) {
            mark(Mark.ADDRESS, trimmed(found.end()));
            return true;
        }
        mark(Mark.ADDRESS, found.end(2));
        plainTo(found.end(3));
        if (found.end() > at) mark(Mark.ADDRESS, trimmed(found.end()));
        return true;
    }

    /** Whether it names something within a program, as {@code direct://tariffs}: one word, of no way into a network. */
    private boolean isWithin(Matcher address) {
        int end = trimmed(address.end());
        var scheme = line.substring(at, address.end(1) - "://".length()).toLowerCase(Locale.ROOT);
        if (end > address.end(2) || end == address.start(2) || NETWORK.contains(scheme)) return false;
        return line.substring(address.start(2), end).chars().allMatch(one -> Character.isLetter(one) || one == '-');
    }

    /** How characters are coded, a language is written, or a zone of time is called (IANA). */
    boolean standard(int wordEnd) {
        boolean mayBe = wordEnd - at == 2
                || wordEnd - at == 5 && line.charAt(at + 2) == '_'
                || "wWiIuUcC".indexOf(line.charAt(at)) >= 0
                || line.startsWith("/", wordEnd) && Character.isUpperCase(line.charAt(at));
        var found = mayBe ? found(STANDARD) : null;
        if (found == null) return false;
        mark(Mark.ID, found.end());
        return true;
    }

    /** A folder that another machine shares: {@code \\fs01\spool}. */
    boolean share() {
        var found = line.startsWith("\\\\", at) ? found(SHARE) : null;
        if (found == null) return false;
        mark(Mark.ADDRESS, found.end());
        return true;
    }

    /** A full stop behind an address belongs to the sentence. */
    int trimmed(int end) {
        int trimmed = end;
        while (trimmed > at + 1 && ".:!".indexOf(line.charAt(trimmed - 1)) >= 0) trimmed--;
        return trimmed;
    }

    /** A disk or a line as the system counts them. */
    boolean device(int wordEnd) {
        if ("shvxnt".indexOf(line.charAt(at)) < 0) return false;
        boolean said = line.startsWith("sd", at) && Character.isDigit(line.charAt(wordEnd - 1))
                || at > 4 && line.startsWith("/dev/", at - 5)
                || last.equals("device")
                || last.equals("disk");
        if (!said || !DEVICE.matcher(line).region(at, wordEnd).matches()) return false;
        mark(Mark.ID, wordEnd);
        return true;
    }

    /** A file of data, which has its number or day in its name. */
    boolean dataFile() {
        if (at < fileTo) return false;
        int end = at;
        int digits = 0;
        int dot = -1;
        for (; end < line.length(); end++) {
            char c = line.charAt(end);
            if (c == '.') {
                if (end + 1 >= line.length() || !isWord(line.charAt(end + 1))) break;
                dot = end;
            } else if (c != '-' && !isWord(c)) break;
            if (Character.isDigit(c)) digits++;
        }
        fileTo = end;
        if (dot < 0 || digits == 0 || !isData(line.substring(at, end))) return false;
        if (digits < 3 && !line.substring(at, dot).matches(".*[_-]\\d+|\\p{L}{0,2}\\d+")) return false;
        mark(Mark.ID, end);
        return true;
    }

    /** Whether it is called as files of data are. */
    static boolean isData(String name) {
        int dot = name.lastIndexOf('.');
        return dot > 0 && DATA.contains(name.substring(dot + 1).toLowerCase(Locale.ROOT));
    }

    boolean mail(int wordEnd) {
        if (at < mailTo) return false;
        int end = wordEnd;
        while (end < line.length() && (isWord(line.charAt(end)) || "._%+-".indexOf(line.charAt(end)) >= 0)) end++;
        mailTo = end;
        if (end >= line.length() || line.charAt(end) != '@' || end - at > 64) return false;
        var domain = MAIL_DOMAIN.matcher(line).region(end, line.length());
        if (!domain.lookingAt()) return false;
        mark(Mark.ADDRESS, domain.end());
        return true;
    }

    /** Labels in lower case with dots between them; the last is a domain that is known to end names of hosts. */
    boolean host() {
        int end = at;
        int dot = -1;
        while (end < line.length() && isHostSign(line.charAt(end))) {
            if (line.charAt(end) == '.') {
                if (end + 1 >= line.length() || !isHostSign(line.charAt(end + 1)) || line.charAt(end + 1) == '.') break;
                dot = end;
            }
            end++;
        }
        char next = end < line.length() ? line.charAt(end) : ' ';
        if (dot < 0 || next == '(' || Character.isLetterOrDigit(next)) return false;
        if (next == '.' && end + 1 < line.length() && Character.isLetter(line.charAt(end + 1))) return false;
        if (!TOP_DOMAINS.contains(line.substring(dot + 1, end))) return false;
        mark(Mark.HOST, end);
        port();
        return true;
    }

    static boolean isHostSign(char c) {
        return c >= 'a' && c <= 'z' || c >= '0' && c <= '9' || c == '.' || c == '-' || c == '_';
    }

    void port() {
        var found = found(PORT);
        if (found == null) return;
        if (Codes.port(found.group(1))) plainTo(found.end());
        else {
            plainTo(at + 1);
            mark(Mark.NUMBER, found.end());
        }
    }

    /** A long run of letters and digits of all sorts, as keys and tokens are coded. */
    boolean token() {
        int end = at;
        while (end < line.length() && isTokenSign(line.charAt(end))) end++;
        tokenTo = end;
        if (end - at < 20) return false;
        var found = found(TOKEN);
        if (found == null) return false;
        tokenTo = found.end();
        int upper = 0;
        int lower = 0;
        int digits = 0;
        int turns = 0;
        boolean dashed = false;
        boolean plus = false;
        for (int i = at; i < found.end(); i++) {
            char c = line.charAt(i);
            if (Character.isUpperCase(c)) upper++;
            else if (Character.isLowerCase(c)) lower++;
            else if (Character.isDigit(c)) digits++;
            dashed |= c == '-';
            plus |= c == '+';
            if (i > at && Character.isDigit(c) != Character.isDigit(line.charAt(i - 1)) && c != '-' && c != '/')
                turns++;
        }
        boolean mixed = digits > 0 && turns >= 4 && (upper > 2 && lower > 2 || digits >= 4 && !dashed);
        boolean coded = upper > 3 && lower > 3 && (plus || line.charAt(found.end() - 1) == '=');
        if (!mixed && !coded) return false;
        mark(Mark.ID, found.end());
        return true;
    }

    static boolean isTokenSign(char c) {
        return c >= 'a' && c <= 'z'
                || c >= 'A' && c <= 'Z'
                || c >= '0' && c <= '9'
                || c == '+'
                || c == '/'
                || c == '_'
                || c == '-';
    }

    boolean ipv6() {
        int colons = 0;
        int end = at;
        boolean doubled = false;
        while (end < line.length() && end < at + 46 && (line.charAt(end) == ':' || isHex(line.charAt(end)))) {
            if (line.charAt(end) == ':') {
                colons++;
                doubled |= end > at && line.charAt(end - 1) == ':';
            }
            end++;
        }
        if (colons < 2 || !doubled && colons != 7) return false;
        var own = found(OWN_PORT);
        if (own != null) {
            mark(Mark.HOST, own.end(1));
            port();
            return true;
        }
        var found = found(IPV6);
        if (found == null || found.end() - at < 3) return false;
        mark(Mark.HOST, found.end());
        return true;
    }

    static boolean isHex(char c) {
        return c >= '0' && c <= '9' || c >= 'a' && c <= 'f' || c >= 'A' && c <= 'F';
    }

    boolean ipv6InBrackets() {
        at++;
        var found = found(IPV6);
        at--;
        if (found == null || found.end() >= line.length() || line.charAt(found.end()) != ']') return false;
        mark(Mark.HOST, found.end() + 1);
        port();
        return true;
    }
}
