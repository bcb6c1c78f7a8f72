package org.orderlyferry.databases.dialect;

import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.apiguardian.api.API;

/**
 * The many words that people write for a system's types, such as {@code int4} or {@code varchar}, each brought to the one that the
 * system's own catalogue has for it. Immutable.
 */
@API(status = API.Status.INTERNAL)
public final class TypeWords {

    private static final Pattern PARTS = Pattern.compile("([^(\\[]*)(\\(.*\\))?([^(]*)", Pattern.DOTALL);
    private static final Pattern DIMENSIONS = Pattern.compile("(?:\\s*\\[\\d*\\])++$|\\s+array(\\s*\\[\\d*\\])?$");

    private final Map<String, String> own = new HashMap<>();

    private TypeWords() {}

    /**
     * Words of a system, in lower case.
     *
     * @param lines each the system's own word, a colon, and those that stand for it, with commas in between
     */
    public static TypeWords of(String... lines) {
        TypeWords words = new TypeWords();
        for (String line : lines) {
            String[] sides = line.split(": ");
            Arrays.stream(sides[1].split(", ")).forEach(w -> words.own.put(w, sides[0]));
        }
        return words;
    }

    /**
     * A written type in the system's own words, in lower case, with what stands in parentheses as it is. Several dimensions of
     * an array are one, as they are to the systems that have them.
     */
    public String own(String written) {
        String lower = written.strip();
        Matcher dimensions = DIMENSIONS.matcher(lower.toLowerCase(Locale.ROOT));
        if (dimensions.find()) {
            return own(lower.substring(0, dimensions.start())) + "[]";
        }
        Matcher parts = PARTS.matcher(lower);
        if (!parts.matches()) {
            return lower.toLowerCase(Locale.ROOT);
        }
        String parameters = parts.group(2) == null ? "" : parts.group(2);
        if (parameters.indexOf('\'') < 0) {
            parameters = parameters.replaceAll("\\s+", "");
        }
        List<String> words =
                List.of(parts.group(1).strip().toLowerCase(Locale.ROOT).split("\\s+"));
        String rest = parts.group(3).strip().toLowerCase(Locale.ROOT).replaceAll("\\s+", " ");
        for (int count = words.size(); count > 0; count--) {
            String known = own.get(String.join(" ", words.subList(0, count)));
            if (known != null) {
                return whole(known, parameters, words.subList(count, words.size()), rest);
            }
        }
        return whole(words.get(0), parameters, words.subList(1, words.size()), rest);
    }

    /** Whether a type is FLOAT of so many binary digits that single precision holds them (ISO/IEC 9075-2). */
    public static boolean isSingle(String own) {
        return own.matches("float\\(([1-9]|1\\d|2[0-4])\\)");
    }

    /** The parameters stand behind the first words; what is said of time zones comes last. */
    private static String whole(String known, String parameters, List<String> more, String rest) {
        String behind = String.join(" ", more);
        int zone = known.indexOf(" with time zone");
        String head = zone < 0 ? known : known.substring(0, zone);
        StringBuilder text = new StringBuilder();
        if (parameters.isEmpty() || zone >= 0) {
            text.append(head).append(parameters);
            text.append(zone < 0 ? "" : known.substring(zone));
            text.append(behind.isEmpty() ? "" : " " + behind);
        } else {
            text.append(head).append(behind.isEmpty() ? "" : " " + behind).append(parameters);
        }
        return text.append(rest.isEmpty() ? "" : " " + rest).toString();
    }
}
