package org.orderlyferry.columnar.parquet;

import java.util.List;
import org.apache.parquet.io.api.Converter;
import org.apache.parquet.io.api.GroupConverter;
import org.apache.parquet.io.api.RecordMaterializer;
import org.apache.parquet.schema.MessageType;
import org.apache.parquet.schema.Type;

/** Takes each record's fields as they come: a value text, bytes, or what is wrong with a value; null for none. */
final class Slots extends RecordMaterializer<Object[]> {

    private final Object[] values;
    private final GroupConverter root;

    /** A value that can't be taken. */
    record Bad(String text, String reason) {}

    Slots(MessageType schema) {
        List<Type> fields = schema.getFields();
        this.values = new Object[fields.size()];
        Converter[] converters = new Converter[fields.size()];
        JsonFields nested = new JsonFields();
        for (int i = 0; i < converters.length; i++) {
            int at = i;
            Type field = fields.get(i);
            converters[i] = field.isPrimitive() && field.getRepetition() != Type.Repetition.REPEATED
                    ? new ValueConverter(field.asPrimitiveType(), v -> values[at] = v)
                    : nested.field(field, v -> values[at] = v);
        }
        this.root = new GroupConverter() {
            @Override
            public Converter getConverter(int field) {
                return converters[field];
            }

            @Override
            public void start() {
                java.util.Arrays.fill(values, null);
                nested.start();
            }

            @Override
            public void end() {
                nested.end();
            }
        };
    }

    @Override
    public Object[] getCurrentRecord() {
        return values;
    }

    @Override
    public GroupConverter getRootConverter() {
        return root;
    }
}
