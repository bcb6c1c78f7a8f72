package org.orderlyferry.columnar.avro;

import java.io.IOException;
import java.io.OutputStream;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.ByteBuffer;
import java.time.DateTimeException;
import java.time.LocalTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import org.apache.avro.Schema;
import org.apache.avro.file.CodecFactory;
import org.apache.avro.file.DataFileWriter;
import org.apache.avro.generic.GenericData;
import org.apache.avro.generic.GenericDatumWriter;
import org.orderlyferry.columnar.Epochs;
import org.orderlyferry.columnar.FileDefinitions;
import org.orderlyferry.columnar.OneTableWriter;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.text.JavaValues;

/** Writes a file, block by block. */
final class AvroTableWriter extends OneTableWriter<GenericData.Record> {

    private static final int BLOCK_BYTES = 256 * 1024;

    private final TableDefinition table;
    private final Schema schema;
    private final DataFileWriter<GenericData.Record> writer;

    AvroTableWriter(OutputStream out, String shown, TableDefinition table, CodecFactory codec) {
        super(out, shown);
        this.table = table;
        this.schema = AvroTypes.schema(table);
        this.writer = new DataFileWriter<>(new GenericDatumWriter<>(schema));
        writer.setCodec(codec).setSyncInterval(BLOCK_BYTES);
        FileDefinitions.of(table).forEach(writer::setMeta);
        try {
            writer.create(schema, out);
        } catch (IOException e) {
            throw failed(e);
        }
    }

    @Override
    protected GenericData.Record record(Records batch, int row) {
        GenericData.Record record = new GenericData.Record(schema);
        for (int i = 0; i < table.columns().size(); i++) {
            if (!batch.isNull(row, i)) {
                ColumnDefinition column = table.columns().get(i);
                try {
                    record.put(i, value(batch, row, i, column.type()));
                } catch (ArithmeticException | DateTimeException | IllegalArgumentException e) {
                    throw new BadValueException(
                            batch.origin(row),
                            column.name(),
                            batch.text(row, i),
                            "can't be written as " + column.type() + " of an Avro file: " + e.getMessage());
                }
            }
        }
        return record;
    }

    private static Object value(Records batch, int row, int column, LogicalType type) {
        if (type.name().isBinary()) {
            return ByteBuffer.wrap(batch.copy(row, column));
        }
        String text = batch.text(row, column);
        long nanos = AvroTypes.isFine(type) ? 1 : 1_000;
        return switch (type.name()) {
            case BOOLEAN -> text.equals("true");
            case SMALLINT, INTEGER -> Integer.parseInt(text);
            case BIGINT -> Long.parseLong(text);
            case REAL -> JavaValues.floatOf(text);
            case DOUBLE -> JavaValues.doubleOf(text);
            case DECIMAL -> AvroTypes.isDecimal(type) ? decimal(text, type) : text;
            case DATE -> (int) JavaValues.date(text).toEpochDay();
            case TIME -> AvroTypes.isFine(type) ? text : Epochs.units(LocalTime.parse(text), nanos);
            case TIMESTAMP -> Epochs.units(JavaValues.timestamp(text).toInstant(ZoneOffset.UTC), nanos);
            case TIMESTAMP_WITH_TIME_ZONE ->
                Epochs.units(JavaValues.instant(text).toInstant(), nanos);
            default -> text;
        };
    }

    private static ByteBuffer decimal(String text, LogicalType type) {
        BigDecimal number = new BigDecimal(text).setScale(type.scale(), RoundingMode.UNNECESSARY);
        if (number.precision() > type.size()) {
            throw new ArithmeticException("it has more than " + type.size() + " digits");
        }
        return ByteBuffer.wrap(number.unscaledValue().toByteArray());
    }

    @Override
    protected void append(GenericData.Record record) throws IOException {
        try {
            writer.append(record);
        } catch (DataFileWriter.AppendWriteException e) {
            throw new IOException(e);
        }
    }

    @Override
    protected void end() throws IOException {
        writer.flush();
    }

    @Override
    public List<Finding> findings() {
        List<Finding> findings = new ArrayList<>();
        List<String> names = AvroNames.of(table.columnNames());
        for (int i = 0; i < names.size(); i++) {
            ColumnDefinition column = table.columns().get(i);
            if (!names.get(i).equals(column.name())) {
                findings.add(new Finding(
                        FindingCode.NAME_CHANGED,
                        table.name(),
                        column.name(),
                        "is called " + names.get(i)
                                + " in the file's schema, which has letters, digits and underscores"));
            }
        }
        return findings;
    }
}
