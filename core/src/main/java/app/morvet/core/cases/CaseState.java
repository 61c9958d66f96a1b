package app.morvet.core.cases;

/** How far the work on a case is. Being quiet is not a state: a case of any open state can be quiet until a time. */
public enum CaseState {
    NEW("new"),
    TAKEN("taken"),
    HANDED_OFF("handed off"),
    SETTLED("settled");

    private final String words;

    CaseState(String words) {
        this.words = words;
    }

    public String words() {
        return words;
    }
}
