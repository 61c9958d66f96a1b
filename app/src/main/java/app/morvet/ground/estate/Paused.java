package app.morvet.ground.estate;

/** Something that says what is not to be looked at for a while, since it is worked on. */
public interface Paused {
    /** Whether anything at all is paused now. */
    boolean any();

    /** Whether a component is not to be asked now. */
    boolean now(Estate.Component one);

    /** Whether a feed is not to be fetched now, since all that it tells of is not to be asked. */
    boolean feed(long id);
}
