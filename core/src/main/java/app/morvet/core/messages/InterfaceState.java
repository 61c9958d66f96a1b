package app.morvet.core.messages;

import java.time.Instant;

/**
 * How an interface stands at its middleware.
 *
 * @param at      since when
 * @param state   running, stopped or failed to deploy
 * @param reason  why it does not run; may be empty, at most 4,000 characters
 * @param version of what is deployed, or was to be; at most 100 characters
 * @param node    where it runs; at most 200 characters
 */
public record InterfaceState(Instant at, State state, String reason, String version, String node) {
    public enum State {
        RUNNING("running"),
        STOPPED("stopped"),
        FAILED_TO_DEPLOY("failed to deploy");

        private final String words;

        State(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }

        /** @throws IllegalArgumentException where there is no such state; says which there are */
        public static State of(String words) {
            for (var state : values()) if (state.words.equals(words)) return state;
            throw new IllegalArgumentException(
                    "state is \"running\", \"stopped\" or \"failed to deploy\", was \"" + words + "\"");
        }
    }

    public InterfaceState {
        if (reason.length() > 4000 || version.length() > 100 || node.length() > 200)
            throw new IllegalArgumentException("reason has at most 4,000 characters, version 100 and node 200");
    }
}
