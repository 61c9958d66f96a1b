package app.morvet.core.cases;

import java.util.List;
import java.util.stream.Stream;

/** Why a case is over. The reason says later whether the guard was right to call. */
public enum SettleReason {
    MENDED("mended", "The cause was found and put right.", true),
    PASSED("passed by itself", "It was real trouble, and it went away without anybody's doing.", true),
    PLANNED("planned work", "Somebody was working on it and had said so.", false),
    FALSE_CALL("false call", "Nothing was wrong; the guard should not have called.", false),
    LEFT("left as it is", "It is real, it is known, and nothing will be done about it.", true),
    /** Nobody chooses it: it follows from joining two cases. */
    JOINED("part of another case", "It has one cause with another case, and goes on there.", true);

    private final String words;
    private final String meaning;
    private final boolean realTrouble;

    SettleReason(String words, String meaning, boolean realTrouble) {
        this.words = words;
        this.meaning = meaning;
        this.realTrouble = realTrouble;
    }

    /** Those that somebody chooses from who settles a case. */
    public static List<SettleReason> choices() {
        return Stream.of(values()).filter(one -> one != JOINED).toList();
    }

    public String words() {
        return words;
    }

    public String meaning() {
        return meaning;
    }

    /** Whether the alert was worth having. */
    public boolean realTrouble() {
        return realTrouble;
    }
}
