package org.orderlyferry.record.text;

import java.util.Locale;
import java.util.regex.Pattern;
import org.orderlyferry.model.LogicalType;

/** Universally unique identifiers (RFC 9562) in lower case with hyphens. */
final class UuidText extends ValueText {

    private static final int LENGTH = 36;

    /** With hyphens in their places, or with none. */
    private static final Pattern FORM =
            Pattern.compile("[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}|[0-9a-f]{32}");

    UuidText(LogicalType type) {
        super(type);
    }

    @Override
    public boolean isProper(byte[] b, int start, int end) {
        if (end - start != LENGTH) {
            return false;
        }
        for (int i = 0; i < LENGTH; i++) {
            byte c = b[start + i];
            boolean hyphen = i == 8 || i == 13 || i == 18 || i == 23;
            if (hyphen ? c != '-' : !(isDigit(c) || c >= 'a' && c <= 'f')) {
                return false;
            }
        }
        return true;
    }

    @Override
    public String toProper(String text) throws InvalidValueException {
        String lower = text.strip().toLowerCase(Locale.ROOT);
        String whole = lower.startsWith("{") && lower.endsWith("}") ? lower.substring(1, lower.length() - 1) : lower;
        if (!FORM.matcher(whole).matches()) {
            throw isNot();
        }
        String bare = whole.replace("-", "");
        return bare.substring(0, 8)
                + '-'
                + bare.substring(8, 12)
                + '-'
                + bare.substring(12, 16)
                + '-'
                + bare.substring(16, 20)
                + '-'
                + bare.substring(20);
    }
}
