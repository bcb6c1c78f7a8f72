package org.orderlyferry.model;

/**
 * Something seen at the source that can't be carried.
 *
 * @param kind what it is, in the system's words: {@code view}, {@code trigger}, {@code check} …
 * @param name what it is called, with its table where it has one
 * @param reason why it stays
 */
public record LeftBehind(String kind, String name, String reason) {
    @Override
    public String toString() {
        return kind + " " + name + ": " + reason;
    }
}
