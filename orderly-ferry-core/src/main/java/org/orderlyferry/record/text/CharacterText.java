package org.orderlyferry.record.text;

import org.orderlyferry.model.LogicalType;

/** Text, as it is; its length counts characters, not bytes. */
final class CharacterText extends ValueText {

    CharacterText(LogicalType type) {
        super(type);
    }

    @Override
    public boolean isProper(byte[] b, int start, int end) {
        int size = type().size();
        return size == LogicalType.UNBOUNDED || end - start <= size || Utf8.characters(b, start, end) <= size;
    }

    @Override
    public String toProper(String text) throws InvalidValueException {
        throw new InvalidValueException(
                "has " + text.codePointCount(0, text.length()) + " characters, too many for " + type());
    }
}
