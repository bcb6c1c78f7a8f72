package org.orderlyferry.report;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;

/** What a record may hold of texts and lists that come from data and from files, which anybody may have written. */
@NullMarked
final class Bounded {

    /** The longest text, in characters; longer ones are cut, and marked as cut. */
    static final int LONGEST = 2_000;

    /** The longest value out of a record, in characters. */
    static final int LONGEST_VALUE = 200;

    private Bounded() {}

    /** A text that is there and not too long. */
    static String text(@Nullable String text) {
        return text == null ? "" : cut(text, LONGEST);
    }

    /** A value out of a record, or none where it is null. */
    static @Nullable String value(@Nullable String value) {
        return value == null ? null : cut(value, LONGEST_VALUE);
    }

    private static String cut(String text, int most) {
        if (text.length() <= most) {
            return text;
        }
        int end = Character.isHighSurrogate(text.charAt(most - 1)) ? most - 1 : most;
        return text.substring(0, end) + "…";
    }

    static <T> List<T> list(@Nullable List<T> list) {
        return list == null ? List.of() : List.copyOf(list);
    }

    static Map<String, String> texts(@Nullable Map<String, String> texts) {
        Map<String, String> bounded = new TreeMap<>();
        Optional.ofNullable(texts).orElse(Map.of()).forEach((name, text) -> bounded.put(text(name), text(text)));
        return bounded;
    }
}
