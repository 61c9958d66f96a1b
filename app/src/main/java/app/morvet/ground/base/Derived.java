package app.morvet.ground.base;

/**
 * What a feature has reckoned from the past and keeps, since reckoning takes a while. Where much of a past has come in at
 * once it is reckoned anew, so that nothing stands that was made of a part of it.
 */
public interface Derived {
    /** A past begins to come in: nothing is reckoned by itself until {@link #reckon} is called. */
    default void rest() {}

    /** Reckons it from all that is there now. */
    void reckon();
}
