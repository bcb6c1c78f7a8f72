package org.orderlyferry.profile;

import java.nio.charset.StandardCharsets;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.text.ValueText;

/** What a text looks like. */
enum ValueKind {
    /** {@code true} or {@code false}, in any case. */
    TRUTH("true or false"),
    /** Digits, the first no zero. */
    WHOLE("whole numbers"),
    /** Digits with zeros or a {@code +} in front, which a number would lose. */
    PADDED("digits with zeros or a + in front"),
    /** Digits with a point in between. */
    DECIMAL("decimal numbers"),
    /** Digits with a comma in between. */
    COMMA("decimal numbers with a comma"),
    /** With an exponent, or what is no number among floating point numbers. */
    APPROXIMATE("floating point numbers"),
    DATE("dates"),
    /** Three numbers, the year last: {@code 04/05/2031}. */
    YEAR_LAST("dates with the year last"),
    TIME("times of day"),
    TIMESTAMP("dates with a time"),
    INSTANT("dates with a time and a zone"),
    UUID("UUIDs"),
    /** Nothing but blanks, or nothing at all. */
    BLANK("blanks"),
    TEXT("texts");

    private static final int LONGEST = 64;
    private static final int LONGEST_WORD = 2 * "false".length();
    private static final ValueText DATES = ValueText.of(LogicalType.DATE);
    private static final ValueText TIMES = ValueText.of(LogicalType.of(TypeName.TIME));
    private static final ValueText TIMESTAMPS = ValueText.of(LogicalType.of(TypeName.TIMESTAMP));
    private static final ValueText INSTANTS = ValueText.of(LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE));
    private static final ValueText UUIDS = ValueText.of(LogicalType.UUID);
    private static final int UUID_LENGTH = 36;

    private final String plural;

    ValueKind(String plural) {
        this.plural = plural;
    }

    /** How several are called. */
    String plural() {
        return plural;
    }

    boolean isNumber() {
        return this == WHOLE || this == DECIMAL || this == APPROXIMATE;
    }

    /** What a value looks like. */
    static ValueKind of(byte[] bytes, int start, int end) {
        if (end - start > LONGEST) {
            return TEXT;
        }
        if (start == end) {
            return BLANK;
        }
        byte first = bytes[start];
        if (first >= '0' && first <= '9' || first == '-' || first == '+' || first == '.') {
            ValueKind number = number(bytes, start, end);
            return number != TEXT ? number : dated(bytes, start, end);
        }
        if (end - start == UUID_LENGTH && isUuid(bytes, start, end)) {
            return UUID;
        }
        if (first > ' ' && end - start > LONGEST_WORD) {
            // neither blank nor a word, of which some letters may be written in several bytes
            return TEXT;
        }
        return word(new String(bytes, start, end - start, StandardCharsets.UTF_8));
    }

    private static ValueKind word(String text) {
        if (text.isBlank()) {
            return BLANK;
        }
        if (text.equalsIgnoreCase("true") || text.equalsIgnoreCase("false")) {
            return TRUTH;
        }
        return text.equals("NaN") || text.equals("INF") ? APPROXIMATE : TEXT;
    }

    private static ValueKind number(byte[] bytes, int start, int end) {
        int i = start;
        boolean plus = bytes[i] == '+';
        if (bytes[i] == '-' || plus) {
            i++;
        }
        int from = i;
        while (i < end && isDigit(bytes[i])) {
            i++;
        }
        int whole = i - from;
        boolean zero = whole > 1 && bytes[from] == '0';
        byte mark = 0;
        int fraction = 0;
        if (i < end && (bytes[i] == '.' || bytes[i] == ',')) {
            mark = bytes[i++];
            int at = i;
            while (i < end && isDigit(bytes[i])) {
                i++;
            }
            fraction = i - at;
        }
        if (i < end && (bytes[i] == 'e' || bytes[i] == 'E') && whole > 0 && mark != ',') {
            i++;
            if (i < end && (bytes[i] == '-' || bytes[i] == '+')) {
                i++;
            }
            int at = i;
            while (i < end && isDigit(bytes[i])) {
                i++;
            }
            return i == end && i > at && !zero && !plus ? APPROXIMATE : TEXT;
        }
        if (i < end || whole == 0 || mark != 0 && fraction == 0) {
            return TEXT;
        }
        if (zero || plus) {
            return PADDED;
        }
        return mark == 0 ? WHOLE : mark == '.' ? DECIMAL : COMMA;
    }

    private static ValueKind dated(byte[] bytes, int start, int end) {
        if (DATES.isProper(bytes, start, end)) {
            return DATE;
        }
        if (TIMES.isProper(bytes, start, end)) {
            return TIME;
        }
        if (end - start == UUID_LENGTH && isUuid(bytes, start, end)) {
            return UUID;
        }
        if (YearLast.read(bytes, start, end) != null) {
            return YEAR_LAST;
        }
        byte[] moment = java.util.Arrays.copyOfRange(bytes, start, end);
        if (moment.length > 10 && moment[10] == ' ') {
            moment[10] = 'T';
        }
        int length = moment.length;
        // a fraction's last zeros are as good as none
        while (length > 19 && moment[length - 1] == '0' && indexOf(moment, '.') == 19) {
            length--;
        }
        if (length > 19 && moment[length - 1] == '.') {
            length--;
        }
        if (TIMESTAMPS.isProper(moment, 0, length)) {
            return TIMESTAMP;
        }
        if (length > 19) {
            if (INSTANTS.isProper(moment, 0, length)) {
                return INSTANT;
            }
            try {
                INSTANTS.toProper(new String(moment, StandardCharsets.UTF_8));
                return INSTANT;
            } catch (org.orderlyferry.record.text.InvalidValueException e) {
                return TEXT;
            }
        }
        return TEXT;
    }

    private static int indexOf(byte[] bytes, char wanted) {
        for (int i = 0; i < bytes.length; i++) {
            if (bytes[i] == wanted) {
                return i;
            }
        }
        return -1;
    }

    private static boolean isUuid(byte[] bytes, int start, int end) {
        byte[] lower = new String(bytes, start, end - start, StandardCharsets.ISO_8859_1)
                .toLowerCase(java.util.Locale.ROOT)
                .getBytes(StandardCharsets.ISO_8859_1);
        return UUIDS.isProper(lower, 0, lower.length);
    }

    private static boolean isDigit(byte b) {
        return b >= '0' && b <= '9';
    }
}
