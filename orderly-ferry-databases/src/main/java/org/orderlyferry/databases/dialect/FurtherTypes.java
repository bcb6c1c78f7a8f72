package org.orderlyferry.databases.dialect;

import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Types that a server has beyond its system's own, since extensions brought them. A column of another server may be of one by
 * the same name, wherever that is there; what stands in brackets behind it, as in {@code geometry(Point,4326)}, goes along.
 *
 * @param written how each is written in this server, by its bare name
 */
public record FurtherTypes(Map<String, String> written) {

    /** There are none, or nobody knows. */
    public static final FurtherTypes NONE = new FurtherTypes(Map.of());

    private static final Pattern TYPE =
            Pattern.compile("(?:(?:[a-z_][a-z0-9_]{0,62}|\"[^\"]{1,63}\")\\.)?([a-z_][a-z0-9_]{0,62})"
                    + "(\\([A-Za-z0-9_]{1,40}(?:, ?[A-Za-z0-9_]{1,40}){0,3}\\))?");

    public FurtherTypes {
        written = Map.copyOf(written);
    }

    /** A type of another server as it is written in this one; empty where it hasn't one of this name. */
    public Optional<String> held(String type) {
        Matcher matcher = TYPE.matcher(type);
        if (!matcher.matches() || !written.containsKey(matcher.group(1))) {
            return Optional.empty();
        }
        return Optional.of(written.get(matcher.group(1)) + (matcher.group(2) == null ? "" : matcher.group(2)));
    }
}
