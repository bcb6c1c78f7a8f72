package org.orderlyferry.record.text;

import java.util.regex.Pattern;
import org.orderlyferry.model.LogicalType;

/** ISO 8601 durations, such as {@code P1Y2M} or {@code -P3DT4H5.5S}; each part may have a sign, as ISO 8601-2 has it. */
final class IntervalText extends ValueText {

    private static final Pattern DURATION = Pattern.compile(
            "-?P(?=.)(-?\\d+Y)?(-?\\d+M)?(-?\\d+D)?" + "(T(?=.)(-?\\d+H)?(-?\\d+M)?(-?\\d+(\\.\\d+)?S)?)?");

    IntervalText(LogicalType type) {
        super(type);
    }

    @Override
    public boolean isProper(byte[] b, int start, int end) {
        return DURATION.matcher(new String(b, start, end - start, java.nio.charset.StandardCharsets.UTF_8))
                .matches();
    }

    @Override
    public String toProper(String text) throws InvalidValueException {
        throw isNot();
    }
}
