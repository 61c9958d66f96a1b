package app.morvet.ground.access;

import java.util.List;

/** What a person is here for; each role may do all that the one before it may. */
public enum Role {
    /** Of a team that owns things; is on duty and is called. May have a log-in, and sees what is handed to their teams and nothing else. */
    MEMBER("team member"),
    ANALYST("analyst"),
    LEAD("lead"),
    ADMIN("admin");

    private final String word;

    Role(String word) {
        this.word = word;
    }

    public String word() {
        return word;
    }

    /**
     * The rights as names: TEAM for what is handed to one's own teams; WORK for everything but setup, and for the limits, hours and fix notes of guards; TUNE for all else of
     * guards and for sorting rules, UNCOVER for what is masked in messages, SETUP for people, keys and connections.
     */
    List<String> rights() {
        return switch (this) {
            case MEMBER -> List.of("TEAM");
            case ANALYST -> List.of("TEAM", "WORK");
            case LEAD -> List.of("TEAM", "WORK", "TUNE", "UNCOVER");
            case ADMIN -> List.of("TEAM", "WORK", "TUNE", "UNCOVER", "SETUP");
        };
    }
}
