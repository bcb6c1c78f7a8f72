package org.orderlyferry.record.fit;

import java.nio.charset.StandardCharsets;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.text.ExactNumber;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.ValueText;

/**
 * Turns value text of one type into that of another, where the value is the same; a value that the other type can't hold
 * whole is refused, never rounded or cut. One instance serves any number of threads.
 */
public final class Conversion {

    private static final String MIDNIGHT = "T00:00:00";

    private final TypeName from;
    private final TypeName to;
    private final ValueText text;

    private Conversion(LogicalType from, LogicalType to) {
        this.from = from.name();
        this.to = to.name();
        this.text = ValueText.of(to);
    }

    /** The conversion between two types, or null where every value's text is the same in both. */
    static Conversion between(LogicalType from, LogicalType to) {
        boolean same = TypeFit.of(from, to) == TypeFit.ALWAYS && from.name() == to.name()
                || !to.isSized() && to.name().isText();
        boolean scaled = to.name() == TypeName.DECIMAL && from.scale() != to.scale();
        return same && !scaled ? null : new Conversion(from, to);
    }

    /** Brings one value of a batch, which is no null, into the other type's text. */
    void apply(RecordBatch batch, int row, int column) throws InvalidValueException {
        if (from == to || to.isBinary() || from.isExactNumber() && to.isExactNumber()) {
            if (text.isProper(batch.bytes(), batch.start(row, column), batch.end(row, column))) {
                return;
            }
        }
        if (to.isBinary()) {
            throw new InvalidValueException("has too many bytes for " + text.type());
        }
        String value = batch.text(row, column);
        String converted = convert(value);
        if (!converted.equals(value)) {
            batch.replace(row, column, converted.getBytes(StandardCharsets.UTF_8));
        }
    }

    private String convert(String value) throws InvalidValueException {
        String other = rewritten(value);
        if (to.isApproximateNumber() && (from.isExactNumber() || from.isApproximateNumber())) {
            return approximate(other);
        }
        byte[] bytes = other.getBytes(StandardCharsets.UTF_8);
        return text.isProper(bytes, 0, bytes.length) ? other : text.toProper(other);
    }

    /** A number as the binary one that reads back as the very same digits; any other would be rounded. */
    private String approximate(String value) throws InvalidValueException {
        String proper = text.toProper(value);
        boolean number = proper.charAt(proper.length() - 1) != 'N' && proper.charAt(proper.length() - 1) != 'F';
        if (number && ExactNumber.of(proper).compareTo(ExactNumber.of(value)) != 0) {
            throw new InvalidValueException("would be rounded to " + proper + ", the column is " + text.type());
        }
        return proper;
    }

    private String rewritten(String value) throws InvalidValueException {
        if (from == TypeName.BOOLEAN && to.isExactNumber()) {
            return value.equals("true") ? "1" : "0";
        }
        if (from.isExactNumber() && to == TypeName.BOOLEAN) {
            return value.replaceFirst("\\.0+$", "");
        }
        if (from == TypeName.DATE && to == TypeName.TIMESTAMP) {
            return value + MIDNIGHT;
        }
        if (from == TypeName.DATE && to == TypeName.TIMESTAMP_WITH_TIME_ZONE) {
            return value + MIDNIGHT + 'Z';
        }
        if (from == TypeName.TIMESTAMP && to == TypeName.TIMESTAMP_WITH_TIME_ZONE) {
            return value + 'Z';
        }
        if (from == TypeName.TIMESTAMP_WITH_TIME_ZONE && to == TypeName.TIMESTAMP) {
            return value.substring(0, value.length() - 1);
        }
        if (from.isTimed() && to == TypeName.DATE) {
            String bare = value.replace("Z", "");
            if (!bare.endsWith(MIDNIGHT)) {
                throw new InvalidValueException("has a time of day, the column is DATE");
            }
            return bare.substring(0, bare.length() - MIDNIGHT.length());
        }
        return value;
    }
}
