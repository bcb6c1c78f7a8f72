package org.orderlyferry.problem;

import org.jspecify.annotations.Nullable;

/** A place failed: it can't be reached, refuses something, or its disk is full. */
public final class PlaceException extends FerryException {

    private final String place;
    private final String what;
    private final boolean denied;
    private final boolean lost;

    /**
     * Of a place, for a reason that trying again doesn't change.
     *
     * @param place the place's address, free of secrets
     * @param what what went wrong, and what to do next
     * @param cause what the system or driver threw; may be null
     */
    public PlaceException(String place, String what, @Nullable Throwable cause) {
        this(place, what, false, false, cause);
    }

    /**
     * Of a place, with what may be done about it.
     *
     * @param denied whether the user lacks a right, so that other tables may still be read
     * @param lost whether the connection is gone, so that another one may do better
     */
    public PlaceException(String place, String what, boolean denied, boolean lost, @Nullable Throwable cause) {
        super(place + ": " + what, cause);
        this.place = place;
        this.what = what;
        this.denied = denied;
        this.lost = lost;
    }

    /** Whether the connection is gone, so that it may be worth while to try again. */
    public boolean isLost() {
        return lost;
    }

    /** Whether the user lacks a right to do what was tried. */
    public boolean isDenied() {
        return denied;
    }

    /** The place's address, free of secrets. */
    public String place() {
        return place;
    }

    /** What went wrong, without the place. */
    public String what() {
        return what;
    }
}
