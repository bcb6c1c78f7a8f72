package org.orderlyferry.columnar.parquet;

import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import org.apache.hadoop.conf.Configuration;
import org.apache.parquet.conf.ParquetConfiguration;
import org.apache.parquet.conf.PlainParquetConfiguration;
import org.apache.parquet.hadoop.ParquetWriter;
import org.apache.parquet.hadoop.api.WriteSupport;
import org.apache.parquet.hadoop.metadata.CompressionCodecName;
import org.apache.parquet.io.OutputFile;
import org.apache.parquet.io.api.RecordConsumer;
import org.apache.parquet.schema.MessageType;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.columnar.FileDefinitions;
import org.orderlyferry.columnar.OneTableWriter;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.Records;

/** Writes a file: its rows in groups, which are all of it that is held in memory. */
final class ParquetTableWriter extends OneTableWriter<Object[]> {

    private static final int GROUP_BYTES = 32 * 1024 * 1024;

    private final TableDefinition table;
    private final FieldValues values;
    private final ParquetWriter<Object[]> writer;

    ParquetTableWriter(OutputStream out, String shown, TableDefinition table, CompressionCodecName codec) {
        super(out, shown);
        this.table = table;
        this.values = new FieldValues(table.columns());
        try {
            this.writer = new Opening(new SentBytes(out), new Fields(table, values))
                    .withConf(new PlainParquetConfiguration())
                    .withCodecFactory(Codecs.ALL)
                    .withCompressionCodec(codec)
                    .withRowGroupSize((long) GROUP_BYTES)
                    .withPageWriteChecksumEnabled(true)
                    .build();
        } catch (IOException e) {
            throw failed(e);
        }
    }

    /** How the library opens a file. */
    private static final class Opening extends ParquetWriter.Builder<Object[], Opening> {

        private final Fields fields;

        Opening(OutputFile file, Fields fields) {
            super(file);
            this.fields = fields;
        }

        @Override
        protected Opening self() {
            return this;
        }

        @Override
        @SuppressWarnings("deprecation")
        protected WriteSupport<Object[]> getWriteSupport(@Nullable Configuration unused) {
            return fields;
        }

        @Override
        protected WriteSupport<Object[]> getWriteSupport(ParquetConfiguration unused) {
            return fields;
        }
    }

    /** Puts records into the file's columns. */
    private static final class Fields extends WriteSupport<Object[]> {

        private final TableDefinition table;
        private final FieldValues values;
        private RecordConsumer consumer;

        Fields(TableDefinition table, FieldValues values) {
            this.table = table;
            this.values = values;
        }

        private WriteContext context() {
            MessageType schema = ParquetTypes.schema(table);
            return new WriteContext(schema, new HashMap<>(FileDefinitions.of(table)));
        }

        @Override
        @SuppressWarnings("deprecation")
        public WriteContext init(@Nullable Configuration unused) {
            return context();
        }

        @Override
        public WriteContext init(ParquetConfiguration unused) {
            return context();
        }

        @Override
        public void prepareForWrite(RecordConsumer to) {
            consumer = to;
        }

        @Override
        public void write(Object[] row) {
            values.write(row, consumer);
        }
    }

    @Override
    protected @Nullable Object[] record(Records batch, int row) {
        return values.of(batch, row);
    }

    @Override
    protected void append(@Nullable Object[] record) throws IOException {
        writer.write(record);
    }

    @Override
    protected void end() throws IOException {
        writer.close();
    }

    @Override
    public List<Finding> findings() {
        List<Finding> findings = new ArrayList<>();
        for (ColumnDefinition column : table.columns()) {
            if (column.type().name() == TypeName.DECIMAL && !ParquetTypes.isDecimal(column.type())) {
                findings.add(new Finding(
                        FindingCode.TYPE_CHANGED,
                        table.name(),
                        column.name(),
                        "is text to other programs, since their decimals have " + ParquetTypes.MOST_DIGITS
                                + " digits at most, and these have no such bound"));
            }
        }
        return findings;
    }
}
