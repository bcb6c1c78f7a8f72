package org.orderlyferry.columnar.parquet;

import java.util.function.Consumer;
import org.apache.parquet.column.Dictionary;
import org.apache.parquet.io.api.Binary;
import org.apache.parquet.io.api.PrimitiveConverter;
import org.apache.parquet.schema.PrimitiveType;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;

/** Takes a single value. Those of a dictionary are made once. */
final class ValueConverter extends PrimitiveConverter {

    private final PrimitiveType field;
    private final Consumer<Object> sink;
    private Object[] known = {};

    ValueConverter(PrimitiveType field, Consumer<Object> sink) {
        this.field = field;
        this.sink = sink;
    }

    @Override
    public boolean hasDictionarySupport() {
        return switch (field.getPrimitiveTypeName()) {
            case BINARY, FIXED_LEN_BYTE_ARRAY -> true;
            default -> false;
        };
    }

    @Override
    public void setDictionary(Dictionary dictionary) {
        known = new Object[dictionary.getMaxId() + 1];
        for (int i = 0; i < known.length; i++) {
            known[i] = value(dictionary.decodeToBinary(i));
        }
    }

    @Override
    public void addValueFromDictionary(int id) {
        sink.accept(known[id]);
    }

    @Override
    public void addBinary(Binary value) {
        sink.accept(value(value));
    }

    private Object value(Binary value) {
        try {
            String text = CellValues.text(field, value);
            return text == null ? value.getBytes() : text;
        } catch (InvalidValueException e) {
            return new Slots.Bad(value.toStringUsingUTF8(), e.getMessage());
        }
    }

    @Override
    public void addBoolean(boolean value) {
        sink.accept(Boolean.toString(value));
    }

    @Override
    public void addInt(int value) {
        addLong(value);
    }

    @Override
    public void addLong(long value) {
        try {
            sink.accept(CellValues.whole(field, value));
        } catch (InvalidValueException e) {
            sink.accept(new Slots.Bad(Long.toString(value), e.getMessage()));
        }
    }

    @Override
    public void addFloat(float value) {
        sink.accept(JavaValues.text(value));
    }

    @Override
    public void addDouble(double value) {
        sink.accept(JavaValues.text(value));
    }
}
