package org.orderlyferry.record.text;

import java.util.Locale;
import org.orderlyferry.model.LogicalType;

final class BooleanText extends ValueText {

    BooleanText(LogicalType type) {
        super(type);
    }

    @Override
    public boolean isProper(byte[] b, int start, int end) {
        return switch (end - start) {
            case 4 -> b[start] == 't' && b[start + 1] == 'r' && b[start + 2] == 'u' && b[start + 3] == 'e';
            case 5 ->
                b[start] == 'f'
                        && b[start + 1] == 'a'
                        && b[start + 2] == 'l'
                        && b[start + 3] == 's'
                        && b[start + 4] == 'e';
            default -> false;
        };
    }

    @Override
    public String toProper(String text) throws InvalidValueException {
        return switch (text.strip().toLowerCase(Locale.ROOT)) {
            case "1", "true" -> "true";
            case "0", "false" -> "false";
            default -> throw isNot();
        };
    }
}
