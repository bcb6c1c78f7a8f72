package org.orderlyferry.model;

import java.util.Objects;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * The type of a column apart from any system. Its text form is that of ISO/IEC 9075-2, for example
 * {@code CHARACTER VARYING(40)}, {@code DECIMAL(12,2)}, {@code TIMESTAMP(6) WITH TIME ZONE} or {@code INTEGER ARRAY}.
 *
 * @param name which type
 * @param size characters of text, bytes of binary, digits of a DECIMAL, digits of a second's fraction;
 *     {@link #UNBOUNDED} where none is declared or the type has none
 * @param scale digits behind the point of a DECIMAL; {@link #UNBOUNDED} where none is declared
 * @param element the type of an ARRAY's elements, else null
 */
public record LogicalType(TypeName name, int size, int scale, @Nullable LogicalType element) {

    /** No size or scale is declared. */
    public static final int UNBOUNDED = -1;

    public static final LogicalType BOOLEAN = of(TypeName.BOOLEAN);
    public static final LogicalType SMALLINT = of(TypeName.SMALLINT);
    public static final LogicalType INTEGER = of(TypeName.INTEGER);
    public static final LogicalType BIGINT = of(TypeName.BIGINT);
    public static final LogicalType REAL = of(TypeName.REAL);
    public static final LogicalType DOUBLE = of(TypeName.DOUBLE);
    public static final LogicalType CLOB = of(TypeName.CLOB);
    public static final LogicalType BLOB = of(TypeName.BLOB);
    public static final LogicalType DATE = of(TypeName.DATE);
    public static final LogicalType INTERVAL = of(TypeName.INTERVAL);
    public static final LogicalType UUID = of(TypeName.UUID);
    public static final LogicalType JSON = of(TypeName.JSON);
    public static final LogicalType XML = of(TypeName.XML);

    private static final Pattern TEXT =
            Pattern.compile("([A-Z ]+?)\\s*(?:\\(\\s*(\\d+)\\s*(?:,\\s*(\\d+)\\s*)?\\))?(\\s+WITH TIME ZONE)?");

    public LogicalType {
        Objects.requireNonNull(name, "name");
        if ((name == TypeName.ARRAY) != (element != null)) {
            throw new IllegalArgumentException("an ARRAY, and nothing else, has an element type");
        }
    }

    /** A type with no size, such as INTEGER. */
    public static LogicalType of(TypeName name) {
        return new LogicalType(name, UNBOUNDED, UNBOUNDED, null);
    }

    /** A type with a size: CHARACTER, CHARACTER VARYING, BINARY, BINARY VARYING, TIME, TIMESTAMP. */
    public static LogicalType of(TypeName name, int size) {
        return new LogicalType(name, size, UNBOUNDED, null);
    }

    /** An exact number of so many digits in all, and so many of them behind the point. */
    public static LogicalType decimal(int precision, int scale) {
        return new LogicalType(TypeName.DECIMAL, precision, scale, null);
    }

    /** A text of at most so many characters. */
    public static LogicalType varchar(int length) {
        return of(TypeName.VARCHAR, length);
    }

    /** A list of values of one type. */
    public static LogicalType arrayOf(LogicalType element) {
        return new LogicalType(TypeName.ARRAY, UNBOUNDED, UNBOUNDED, element);
    }

    /**
     * Reads the text form.
     *
     * @throws IllegalArgumentException if it isn't one
     */
    public static LogicalType parse(String text) {
        String upper = text.strip().toUpperCase(java.util.Locale.ROOT);
        if (upper.endsWith(" ARRAY")) {
            return arrayOf(parse(upper.substring(0, upper.length() - " ARRAY".length())));
        }
        Matcher matcher = TEXT.matcher(upper);
        if (!matcher.matches()) {
            throw new IllegalArgumentException("not a logical type: " + text);
        }
        String words = matcher.group(4) == null ? matcher.group(1) : matcher.group(1) + " WITH TIME ZONE";
        TypeName name =
                TypeName.ofSql(words).orElseThrow(() -> new IllegalArgumentException("not a logical type: " + text));
        return new LogicalType(name, number(matcher.group(2)), number(matcher.group(3)), null);
    }

    private static int number(String digits) {
        return digits == null ? UNBOUNDED : Integer.parseInt(digits);
    }

    /** Whether a size is declared. */
    public boolean isSized() {
        return size != UNBOUNDED;
    }

    @Override
    public String toString() {
        if (name == TypeName.ARRAY) {
            return element + " ARRAY";
        }
        String parameters =
                size == UNBOUNDED ? "" : scale == UNBOUNDED ? "(" + size + ")" : "(" + size + "," + scale + ")";
        return name == TypeName.TIMESTAMP_WITH_TIME_ZONE
                ? "TIMESTAMP" + parameters + " WITH TIME ZONE"
                : name.sql() + parameters;
    }
}
