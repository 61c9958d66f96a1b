package app.morvet.core.batch;

/** Something that somebody might do about the night. */
public sealed interface WhatIf {
    /** Runs a job again from now, and all that waits for it after that. */
    record Rerun(String job) implements WhatIf {}

    /** Takes a job as done, so that what waits for it goes on. */
    record Skip(String job) implements WhatIf {}

    /** Starts a job now, whatever it waits for. */
    record StartNow(String job) implements WhatIf {}

    /** Gives a scheduler more slots. */
    record MoreSlots(int more) implements WhatIf {
        public MoreSlots {
            if (more < 1 || more > 1000) throw new IllegalArgumentException("add 1 to 1000 slots");
        }
    }
}
