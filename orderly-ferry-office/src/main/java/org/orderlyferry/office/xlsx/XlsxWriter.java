package org.orderlyferry.office.xlsx;

import java.io.IOException;
import java.io.OutputStream;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.Screen;
import org.orderlyferry.record.text.JavaValues;

/**
 * Writes a workbook: numbers, dates and truth values as such where a spreadsheet keeps them whole, all else as text. Text
 * is never a formula, however it begins.
 */
final class XlsxWriter implements TablesWriter {

    /** Rows of a sheet. */
    static final int MOST_ROWS = 1_048_576;

    private static final int LONGEST = 32_767;
    /** So short that it fits, whatever marks stand for its characters. */
    private static final int SHORT = 4_000;

    private static final int MOST_DIGITS = 15;
    private static final int WIDEST = 48;
    private static final int NARROWEST = 8;
    private static final int FLUSH = 500;

    private final String shown;
    private final int sheetRows;
    private final OutputStream out;
    private final Workbook workbook;
    private final SheetNames names = new SheetNames();
    private final Map<TableDefinition, List<String>> sheets = new LinkedHashMap<>();
    private final List<Finding> findings = new ArrayList<>();
    private boolean finished;

    XlsxWriter(OutputStream out, String shown, int sheetRows) {
        this.shown = shown;
        this.sheetRows = sheetRows;
        this.out = out;
        this.workbook = new Workbook(out, "Orderly Ferry", "1.0");
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
        private Worksheet sheet;
        private int row;

        TableWriter(TableDefinition table) {
            this.table = table;
            this.columns = table.columns();
            this.asText = new long[columns.size()];
            this.examples = new String[columns.size()];
        }

        @Override
        public void write(RecordBatch batch) {
            try {
                for (int i = 0; i < batch.rows(); i++) {
                    if (sheet == null || row == sheetRows) {
                        next(batch, i);
                    }
                    record(batch, i);
                    row++;
                    if (row % FLUSH == 0) {
                        sheet.flush();
                    }
                }
            } catch (IOException e) {
                throw failed(e);
            }
        }

        private void next(Records batch, int from) throws IOException {
            if (sheet != null) {
                sheet.finish();
            }
            String name = names.of(table.name().toString());
            sheet = workbook.newWorksheet(name);
            sheets.get(table).add(name);
            sheet.freezePane(0, 1);
            for (int i = 0; i < columns.size(); i++) {
                sheet.inlineString(0, i, XString.of(columns.get(i).name()));
                sheet.style(0, i).bold().set();
                sheet.width(i, width(batch, from, i));
            }
            row = 1;
        }

        /** Wide enough for the heading and the first values, in reason. */
        private double width(Records batch, int from, int column) {
            int width = Math.max(NARROWEST, columns.get(column).name().length() + 2);
            for (int i = from; batch != null && i < Math.min(batch.rows(), from + FLUSH); i++) {
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
                // a row without a cell would be no row
                sheet.style(row, 0).format("@").set();
            }
        }

        private void value(Records batch, int i, int column) {
            LogicalType type = columns.get(column).type();
            if (type.name().isBinary()) {
                text(batch, i, column, Base64.getEncoder().encodeToString(batch.copy(i, column)));
                return;
            }
            String text = batch.text(i, column);
            switch (type.name()) {
                case BOOLEAN -> sheet.value(row, column, text.equals("true"));
                case SMALLINT, INTEGER, BIGINT, DECIMAL -> number(batch, i, column, text);
                case REAL, DOUBLE -> {
                    if (text.endsWith("N") || text.endsWith("F") || isNegativeZero(text)) {
                        text(batch, i, column, text);
                    } else {
                        sheet.value(row, column, Double.valueOf(text));
                    }
                }
                case DATE, TIME, TIMESTAMP -> moment(batch, i, column, text);
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
            sheet.value(row, column, number);
            int scale = columns.get(column).type().scale();
            if (scale > 0) {
                sheet.style(row, column).format("0." + "0".repeat(scale)).set();
            }
        }

        private void moment(Records batch, int i, int column, String text) {
            BigDecimal serial = null;
            String format = "";
            switch (columns.get(column).type().name()) {
                case DATE -> {
                    LocalDate day = JavaValues.date(text);
                    serial = Serials.holds(day) ? Serials.of(day) : null;
                    format = "yyyy-mm-dd";
                }
                case TIME -> {
                    LocalTime time = LocalTime.parse(text);
                    serial = Serials.holds(time) ? Serials.of(time) : null;
                    format = time.getNano() == 0 ? "hh:mm:ss" : "hh:mm:ss.000";
                }
                default -> {
                    LocalDateTime moment = JavaValues.timestamp(text);
                    boolean held = Serials.holds(moment.toLocalDate()) && Serials.holds(moment.toLocalTime());
                    serial = held ? Serials.of(moment) : null;
                    format = moment.getNano() == 0 ? "yyyy-mm-dd hh:mm:ss" : "yyyy-mm-dd hh:mm:ss.000";
                }
            }
            if (serial == null) {
                text(batch, i, column, text);
            } else {
                sheet.value(row, column, serial);
                sheet.style(row, column).format(format).set();
            }
        }

        private void text(Records batch, int i, int column, String text) {
            sheet.inlineString(row, column, held(columns, batch, i, column, text));
        }

        @Override
        public void finish() {
            try {
                if (sheet == null) {
                    next(null, 0);
                }
                sheet.finish();
            } catch (IOException e) {
                throw failed(e);
            }
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

    /** A text as a cell has it. */
    private static String held(List<ColumnDefinition> columns, Records batch, int i, int column, String text) {
        String written = XString.of(text);
        if (written.length() > LONGEST) {
            throw new BadValueException(
                    batch.origin(i),
                    columns.get(column).name(),
                    text,
                    "can't be written: a cell of a spreadsheet holds " + LONGEST + " characters, and these are "
                            + written.length());
        }
        return written;
    }

    @Override
    public Optional<Screen> screen(TableDefinition table) {
        List<ColumnDefinition> columns = table.columns();
        return Optional.of(Screen.by((batch, row) -> {
            for (int column = 0; column < columns.size(); column++) {
                // what is shorter in bytes isn't longer in the file's marks either
                if (!batch.isNull(row, column) && batch.end(row, column) - batch.start(row, column) > SHORT) {
                    String text = columns.get(column).type().name().isBinary()
                            ? Base64.getEncoder().encodeToString(batch.copy(row, column))
                            : batch.text(row, column);
                    held(columns, batch, row, column, text);
                }
            }
        }));
    }

    private PlaceException failed(IOException e) {
        return new PlaceException(shown, "can't be written: " + e.getMessage(), e);
    }

    @Override
    public void finish() {
        try {
            Worksheet definitions = workbook.newWorksheet(names.of(DefinitionsSheet.NAME));
            DefinitionsSheet.write(definitions, sheets);
            definitions.finish();
            workbook.finish();
            finished = true;
        } catch (IOException e) {
            throw failed(e);
        }
    }

    @Override
    public List<Finding> findings() {
        return findings;
    }

    /**
     * A workbook that wasn't finished is thrown away as it is: the library would try to finish it, and never end where its
     * compressor has already failed to write its last bytes.
     */
    @Override
    public void close() {
        try {
            out.close();
        } catch (IOException e) {
            if (finished) {
                throw failed(e);
            }
            org.slf4j.LoggerFactory.getLogger(XlsxWriter.class).debug("{} was not finished", shown, e);
        }
    }
}
