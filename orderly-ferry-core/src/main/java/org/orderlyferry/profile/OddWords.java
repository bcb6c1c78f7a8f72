package org.orderlyferry.profile;

import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;

/** Texts that keep a column from being of another type although a person sees what they mean. */
final class OddWords {

    private static final Set<String> NOTHING = Set.of(
            "NA", "N/A", "n/a", "na", "-", "--", "null", "NULL", "Null", "none", "None", "nil", "?", ".", "#N/A", "NaN",
            "nan", "missing", "unknown");
    private static final Pattern BARE_FRACTION = Pattern.compile("[-+]?\\.[0-9]+");

    /** Ways to write a day, with the pattern that reads each (Unicode Technical Standard 35). */
    private static final Map<String, Pattern> DAYS = new LinkedHashMap<>(Map.of(
            "yyyy/MM/dd", Pattern.compile("[0-9]{4}/[0-9]{2}/[0-9]{2}"),
            "yyyy.MM.dd", Pattern.compile("[0-9]{4}\\.[0-9]{2}\\.[0-9]{2}"),
            "MMM d yyyy", Pattern.compile("[A-Z][a-z]{2} [0-9]{1,2} [0-9]{4}"),
            "d MMM yyyy", Pattern.compile("[0-9]{1,2} [A-Z][a-z]{2} [0-9]{4}"),
            "d-MMM-yyyy", Pattern.compile("[0-9]{1,2}-[A-Z][a-z]{2}-[0-9]{4}")));

    private static final int LONGEST_NOTHING =
            NOTHING.stream().mapToInt(String::length).max().orElseThrow();
    private static final int SHORTEST_DAY = 10;
    private static final int LONGEST_DAY = 11;
    private static final int LONGEST_FRACTION = 16;

    private final Map<String, Long> nothing = new LinkedHashMap<>();
    private long bareFractions;
    private String firstBareFraction = "";
    private long days;
    private String firstDay = "";
    private String dayFormat = "";

    void add(byte[] bytes, int start, int end) {
        int length = end - start;
        // of most texts a look at their length and their ends tells enough
        boolean digitLast = length > 1 && bytes[end - 1] >= '0' && bytes[end - 1] <= '9';
        boolean fraction = digitLast && length <= LONGEST_FRACTION && (bytes[start] == '.' || bytes[start + 1] == '.');
        boolean day = digitLast && length >= SHORTEST_DAY && length <= LONGEST_DAY;
        if (length > LONGEST_NOTHING && !fraction && !day) {
            return;
        }
        String text = new String(bytes, start, length, StandardCharsets.UTF_8);
        if (NOTHING.contains(text)) {
            nothing.merge(text, 1L, Long::sum);
        } else if (fraction && BARE_FRACTION.matcher(text).matches()) {
            firstBareFraction = bareFractions++ == 0 ? text : firstBareFraction;
        } else if (day) {
            day(text);
        }
    }

    private void day(String text) {
        for (Map.Entry<String, Pattern> form : DAYS.entrySet()) {
            if (form.getValue().matcher(text).matches() && (days == 0 || dayFormat.equals(form.getKey()))) {
                firstDay = days++ == 0 ? text : firstDay;
                dayFormat = form.getKey();
                return;
            }
        }
    }

    Map<String, Long> nothing() {
        return nothing;
    }

    long bareFractions() {
        return bareFractions;
    }

    String firstBareFraction() {
        return firstBareFraction;
    }

    long days() {
        return days;
    }

    String firstDay() {
        return firstDay;
    }

    String dayFormat() {
        return dayFormat;
    }
}
