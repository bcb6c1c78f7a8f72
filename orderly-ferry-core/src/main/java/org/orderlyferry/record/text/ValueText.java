package org.orderlyferry.record.text;

import org.apiguardian.api.API;
import org.orderlyferry.model.LogicalType;

/**
 * The value text of one logical type, after W3C XML Schema Part 2: what it looks like, and how other ways to write the
 * same value are brought into that form. One instance serves any number of threads.
 */
@API(status = API.Status.INTERNAL)
public abstract class ValueText {

    private final LogicalType type;

    ValueText(LogicalType type) {
        this.type = type;
    }

    /** The value text of a type. */
    public static ValueText of(LogicalType type) {
        return switch (type.name()) {
            case BOOLEAN -> new BooleanText(type);
            case SMALLINT -> new IntegerText(type, Short.MIN_VALUE, Short.MAX_VALUE);
            case INTEGER -> new IntegerText(type, Integer.MIN_VALUE, Integer.MAX_VALUE);
            case BIGINT -> new IntegerText(type, Long.MIN_VALUE, Long.MAX_VALUE);
            case DECIMAL -> new DecimalText(type);
            case REAL, DOUBLE -> new FloatingText(type);
            case CHARACTER, VARCHAR, CLOB -> new CharacterText(type);
            case BINARY, VARBINARY, BLOB -> new BinaryText(type);
            case DATE, TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE -> new TemporalText(type);
            case INTERVAL -> new IntervalText(type);
            case UUID -> new UuidText(type);
            case JSON, ARRAY -> new JsonText(type);
            case XML -> new CharacterText(type);
        };
    }

    /** The type whose values are read. */
    public final LogicalType type() {
        return type;
    }

    /** Whether these bytes are a value in its one proper form, so that they can travel as they are. */
    public abstract boolean isProper(byte[] bytes, int start, int end);

    /**
     * Brings another way to write a value into its proper form; asked only when {@link #isProper} said no.
     *
     * @throws InvalidValueException if the text is no value of the type at all, or doesn't fit it
     */
    public abstract String toProper(String text) throws InvalidValueException;

    InvalidValueException isNot() {
        String name = type.toString();
        boolean vowel = "AEIOU".indexOf(name.charAt(0)) >= 0 && !name.startsWith("U");
        return new InvalidValueException("isn't " + (vowel ? "an " : "a ") + name);
    }

    static boolean isDigit(byte b) {
        return b >= '0' && b <= '9';
    }
}
