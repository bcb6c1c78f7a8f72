package org.orderlyferry.problem;

/** A place failed: it can't be reached, refuses something, or its disk is full. */
public final class PlaceException extends FerryException {

    private final String place;

    /**
     * @param place the place's address, free of secrets
     * @param what what went wrong, and what to do next
     * @param cause what the system or driver threw; may be null
     */
    public PlaceException(String place, String what, Throwable cause) {
        super(place + ": " + what, cause);
        this.place = place;
    }

    public String place() {
        return place;
    }
}
