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

    private static final int LONGEST = 16;

    private final Map<String, Long> nothing = new LinkedHashMap<>();
    private long bareFractions;
    private String firstBareFraction = "";
    private long days;
    private String firstDay = "";
    private String dayFormat = "";

    void add(byte[] bytes, int start, int end) {
        if (end - start > LONGEST) {
            return;
        }
        String text = new String(bytes, start, end - start, StandardCharsets.UTF_8);
        if (NOTHING.contains(text)) {
            nothing.merge(text, 1L, Long::sum);
            return;
        }
        if (BARE_FRACTION.matcher(text).matches()) {
            firstBareFraction = bareFractions++ == 0 ? text : firstBareFraction;
            return;
        }
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
