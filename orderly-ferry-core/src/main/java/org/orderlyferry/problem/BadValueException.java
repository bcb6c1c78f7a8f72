package org.orderlyferry.problem;

import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** A value doesn't fit its column: its type, its length, its range, or the target's own rules. */
public final class BadValueException extends FerryException {

    private static final int SHOWN = 80;

    private final Origin origin;
    private final String column;
    private final @Nullable String value;
    private final String reason;

    /**
     * Of a value.
     *
     * @param origin which record
     * @param column which column
     * @param value the value as text; null for a null
     * @param reason why it doesn't fit, for example {@code is longer than CHARACTER VARYING(8)}
     */
    public BadValueException(Origin origin, String column, @Nullable String value, String reason) {
        super(origin + ", column " + column + ": " + shown(value) + " " + reason, null);
        this.origin = origin;
        this.column = column;
        this.value = value;
        this.reason = reason;
    }

    /** Where the value comes from. */
    public Origin origin() {
        return origin;
    }

    /** Whose value it is. */
    public String column() {
        return column;
    }

    /** The value as text; null for a null. */
    public @Nullable String value() {
        return value;
    }

    /** Why it doesn't fit. */
    public String reason() {
        return reason;
    }

    /** A value as messages show it: quoted, on one line, cut where it is long. */
    public static String shown(@Nullable String value) {
        if (value == null) {
            return "null";
        }
        int[] points = value.codePoints().limit(SHOWN + 1L).toArray();
        StringBuilder text = new StringBuilder("'");
        for (int i = 0; i < Math.min(points.length, SHOWN); i++) {
            int point = points[i];
            switch (point) {
                case '\n' -> text.append("\\n");
                case '\r' -> text.append("\\r");
                case '\t' -> text.append("\\t");
                default -> {
                    if (Character.isISOControl(point) || Character.getType(point) == Character.SURROGATE) {
                        text.append(String.format(Locale.ROOT, "\\u%04x", point));
                    } else {
                        text.appendCodePoint(point);
                    }
                }
            }
        }
        text.append('\'');
        if (points.length > SHOWN) {
            text.append("… (").append(value.codePointCount(0, value.length())).append(" characters)");
        }
        return text.toString();
    }
}
