package org.orderlyferry.office.sheet;

import java.math.BigDecimal;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.Screen;
import org.orderlyferry.record.text.JavaValues;

/**
 * Writes a file of sheets: numbers, dates and truth values as such where a spreadsheet keeps them whole, all else as text. Text is
 * never a formula, however it begins.
 */
public final class SheetWriter implements TablesWriter {

    private static final int MOST_DIGITS = 15;
    private static final int WIDEST = 48;
    private static final int NARROWEST = 8;
    /** From so many rows' values a column's width is taken. */
    private static final int LOOKED_AT = 500;

    private final int sheetRows;
    private final SheetSink sink;
    private final int surelyHeld;
    private final SheetNames names = new SheetNames();
    private final Map<TableDefinition, List<String>> sheets = new LinkedHashMap<>();
    private final List<Finding> findings = new ArrayList<>();

    /**
     * A writer.
     *
     * @param sheetRows after how many rows a table goes on in another sheet
     * @param surelyHeld texts of so many bytes need not be looked at before they are written; -1 if all need
     */
    public SheetWriter(SheetSink sink, int sheetRows, int surelyHeld) {
        this.sink = sink;
        this.sheetRows = sheetRows;
        this.surelyHeld = surelyHeld;
    }

    /**
     * Looks, before anything is written, whether tables' names and definitions can stand in cells.
     *
     * @throws UsageException if one can't
     */
    void mustHold(List<TableDefinition> tables) {
        for (TableDefinition table : tables) {
            for (ColumnDefinition column : table.columns()) {
                try {
                    DefinitionsSheet.cells(table, column, List.of()).forEach(sink::mustHold);
                } catch (IllegalArgumentException e) {
                    throw new UsageException("the name or definition of column " + column.name() + " of table "
                            + table.name() + " can't be written: " + e.getMessage());
                }
            }
        }
    }

    @Override
    public RecordWriter writer(TableDefinition table) {
        sheets.put(table, new ArrayList<>());
        return new TableWriter(table);
    }

    /** One table's sheets. */
    private final class TableWriter implements RecordWriter {

        private final TableDefinition table;
        private final List<ColumnDefinition> columns;
        private final long[] asText;
        private final String[] examples;
        private int row;

        TableWriter(TableDefinition table) {
            this.table = table;
            this.columns = table.columns();
            this.asText = new long[columns.size()];
            this.examples = new String[columns.size()];
        }

        @Override
        public void write(RecordBatch batch) {
            for (int i = 0; i < batch.rows(); i++) {
                if (row == 0 || row == sheetRows) {
                    next(batch, i);
                }
                record(batch, i);
                row++;
            }
        }

        private void next(Records batch, int from) {
            if (row > 0) {
                sink.end();
            }
            String name = names.of(table.name().toString());
            sheets.get(table).add(name);
            List<Integer> widths = new ArrayList<>();
            for (int i = 0; i < columns.size(); i++) {
                widths.add(width(batch, from, i));
            }
            sink.begin(name, table.columnNames(), widths);
            row = 1;
        }

        /** Wide enough for the heading and the first values, in reason. */
        private int width(Records batch, int from, int column) {
            int width = Math.max(NARROWEST, columns.get(column).name().length() + 2);
            for (int i = from; batch != null && i < Math.min(batch.rows(), from + LOOKED_AT); i++) {
                if (!batch.isNull(i, column)) {
                    width = Math.max(width, batch.end(i, column) - batch.start(i, column) + 2);
                }
            }
            return Math.min(WIDEST, width);
        }

        private void record(Records batch, int i) {
            boolean nothing = true;
            for (int column = 0; column < columns.size(); column++) {
                if (!batch.isNull(i, column)) {
                    nothing = false;
                    value(batch, i, column);
                }
            }
            if (nothing) {
                sink.nothing();
            }
            sink.endRow();
        }

        private void value(Records batch, int i, int column) {
            LogicalType type = columns.get(column).type();
            if (type.name().isBinary()) {
                text(batch, i, column, Base64.getEncoder().encodeToString(batch.copy(i, column)));
                return;
            }
            String text = batch.text(i, column);
            switch (type.name()) {
                case BOOLEAN -> sink.truth(column, text.equals("true"));
                case SMALLINT, INTEGER, BIGINT, DECIMAL -> number(batch, i, column, text);
                case REAL, DOUBLE -> {
                    if (text.endsWith("N") || text.endsWith("F") || isNegativeZero(text)) {
                        text(batch, i, column, text);
                    } else {
                        sink.floating(column, Double.parseDouble(text));
                    }
                }
                case DATE, TIME, TIMESTAMP -> {
                    if (!moment(column, text)) {
                        text(batch, i, column, text);
                    }
                }
                default -> text(batch, i, column, text);
            }
        }

        private static boolean isNegativeZero(String text) {
            return text.startsWith("-") && Double.parseDouble(text) == 0;
        }

        private void number(Records batch, int i, int column, String text) {
            BigDecimal number = new BigDecimal(text);
            if (number.stripTrailingZeros().precision() > MOST_DIGITS) {
                asText[column]++;
                examples[column] = examples[column] == null ? text : examples[column];
                text(batch, i, column, text);
                return;
            }
            sink.number(column, number, columns.get(column).type().scale());
        }

        private boolean moment(int column, String text) {
            return switch (columns.get(column).type().name()) {
                case DATE -> sink.day(column, JavaValues.date(text));
                case TIME -> sink.time(column, LocalTime.parse(text));
                default -> sink.moment(column, JavaValues.timestamp(text));
            };
        }

        private void text(Records batch, int i, int column, String text) {
            mustHold(columns, batch, i, column, text);
            sink.text(column, text);
        }

        @Override
        public void finish() {
            if (row == 0) {
                next(null, 0);
            }
            sink.end();
            for (int i = 0; i < asText.length; i++) {
                if (asText[i] > 0) {
                    findings.add(new Finding(
                            FindingCode.VALUE_CHANGED,
                            table.name(),
                            columns.get(i).name(),
                            asText[i] + " numbers are written as texts, since a spreadsheet keeps " + MOST_DIGITS
                                    + " digits of a number; the first is " + examples[i]));
                }
            }
        }

        @Override
        public void close() {
            // the file is closed as a whole
        }
    }

    private void mustHold(List<ColumnDefinition> columns, Records batch, int i, int column, String text) {
        try {
            sink.mustHold(text);
        } catch (IllegalArgumentException e) {
            throw new BadValueException(
                    batch.origin(i), columns.get(column).name(), text, "can't be written: " + e.getMessage());
        }
    }

    @Override
    public Optional<Screen> screen(TableDefinition table) {
        List<ColumnDefinition> columns = table.columns();
        return Optional.of(Screen.by((batch, row) -> {
            for (int column = 0; column < columns.size(); column++) {
                if (!batch.isNull(row, column) && batch.end(row, column) - batch.start(row, column) > surelyHeld) {
                    String text = columns.get(column).type().name().isBinary()
                            ? Base64.getEncoder().encodeToString(batch.copy(row, column))
                            : batch.text(row, column);
                    mustHold(columns, batch, row, column, text);
                }
            }
        }));
    }

    @Override
    public void finish() {
        sink.begin(names.of(DefinitionsSheet.NAME), DefinitionsSheet.headings(), DefinitionsSheet.widths());
        DefinitionsSheet.write(sink, sheets);
        sink.end();
        sink.finish();
    }

    @Override
    public List<Finding> findings() {
        return findings;
    }

    @Override
    public void close() {
        sink.close();
    }
}
