package org.orderlyferry.record.text;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.apiguardian.api.API;

/**
 * A pattern of LIKE: {@code %} stands for any characters, {@code _} for one. Found without going back further than to the last
 * {@code %}, so that no pattern takes longer than the text's length times its own. Immutable.
 */
@API(status = API.Status.INTERNAL)
public final class LikePattern {

    private static final int ANY = -1;
    private static final int ONE = -2;

    private final List<Integer> parts;

    private LikePattern(List<Integer> parts) {
        this.parts = parts;
    }

    /**
     * Reads a pattern.
     *
     * @param escape the character that takes the meaning from the one behind it
     * @return nothing for a pattern that ends in the middle
     */
    public static Optional<LikePattern> of(String pattern, Optional<Integer> escape) {
        List<Integer> parts = new ArrayList<>();
        int[] points = pattern.codePoints().toArray();
        for (int i = 0; i < points.length; i++) {
            if (escape.isPresent() && points[i] == escape.get()) {
                if (++i == points.length) {
                    return Optional.empty();
                }
                parts.add(points[i]);
            } else {
                parts.add(points[i] == '%' ? ANY : points[i] == '_' ? ONE : points[i]);
            }
        }
        return Optional.of(new LikePattern(parts));
    }

    /** Whether it asks for a character, whichever it may be. */
    public boolean countsCharacters() {
        return parts.contains(ONE);
    }

    /** Whether it asks only for printable characters of ASCII. */
    public boolean isPlain() {
        return parts.stream().allMatch(p -> p < 0 || p >= ' ' && p <= '~');
    }

    /** The same with the capitals of ASCII as small letters. */
    public LikePattern folded() {
        return new LikePattern(parts.stream().map(AsciiCase::small).toList());
    }

    /**
     * Whether a text is like it.
     *
     * @param caseless whether it doesn't matter in which case letters are
     */
    public boolean matches(String text, boolean caseless) {
        int[] points = text.codePoints().toArray();
        int at = 0;
        int part = 0;
        int lastAny = -1;
        int from = 0;
        while (at < points.length) {
            if (part < parts.size() && parts.get(part) == ANY) {
                lastAny = part++;
                from = at;
            } else if (part < parts.size() && isSame(parts.get(part), points[at], caseless)) {
                part++;
                at++;
            } else if (lastAny >= 0) {
                part = lastAny + 1;
                at = ++from;
            } else {
                return false;
            }
        }
        while (part < parts.size() && parts.get(part) == ANY) {
            part++;
        }
        return part == parts.size();
    }

    private static boolean isSame(int part, int point, boolean caseless) {
        return part == ONE
                || part == point
                || caseless
                        && part >= 0
                        && Character.toLowerCase(Character.toUpperCase(part))
                                == Character.toLowerCase(Character.toUpperCase(point));
    }
}
