package org.orderlyferry.record.text;

import org.orderlyferry.model.LogicalType;

/** Raw bytes; in text files they stand as base64, which the format's reader has undone by now. */
final class BinaryText extends ValueText {

    BinaryText(LogicalType type) {
        super(type);
    }

    @Override
    public boolean isProper(byte[] b, int start, int end) {
        return !type().isSized() || end - start <= type().size();
    }

    @Override
    public String toProper(String text) throws InvalidValueException {
        throw new InvalidValueException("has too many bytes for " + type());
    }
}
