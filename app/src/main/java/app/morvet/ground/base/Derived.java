package app.morvet.ground.base;

/**
 * What a feature has reckoned from the past and keeps, since reckoning takes a while. Where much of a past has come in at
 * once it is reckoned anew, so that nothing stands that was made of a part of it.
 */
public interface Derived {
    /** Reckons it from all that is there now. */
    void reckon();
}
