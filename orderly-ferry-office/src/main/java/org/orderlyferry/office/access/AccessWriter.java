package org.orderlyferry.office.access;

import com.healthmarketscience.jackcess.BatchUpdateException;
import com.healthmarketscience.jackcess.Column;
import com.healthmarketscience.jackcess.ConstraintViolationException;
import com.healthmarketscience.jackcess.DataType;
import com.healthmarketscience.jackcess.Database;
import com.healthmarketscience.jackcess.DatabaseBuilder;
import com.healthmarketscience.jackcess.DateTimeType;
import com.healthmarketscience.jackcess.JackcessException;
import com.healthmarketscience.jackcess.Table;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.io.TemporaryFolder;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.BadRecordException;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.Screen;
import org.orderlyferry.record.text.InvalidValueException;

/**
 * Writes a file: tables with their keys, records, and relationships when all records are there. It is made in a file of its own,
 * since the library goes to and fro in it, and is copied to where it belongs when it is whole.
 */
final class AccessWriter implements TablesWriter {

    private static final int MOST_COLUMNS = 255;

    private final OutputStream out;
    private final String shown;
    private final List<TableDefinition> tables;
    private final Path file;
    private final Database database;
    private final TableMaking making;
    private final Map<TableName, Table> written = new HashMap<>();
    /** Tables of which a screen writes the records. */
    private final Set<TableName> screened = ConcurrentHashMap.newKeySet();

    private boolean ended;

    AccessWriter(OutputStream out, String shown, List<TableDefinition> tables) {
        this.out = out;
        this.shown = shown;
        this.tables = List.copyOf(tables);
        for (TableDefinition table : tables) {
            if (table.columns().size() > MOST_COLUMNS) {
                throw new UsageException("a table of a desktop database has at most " + MOST_COLUMNS + " columns, and "
                        + table.name() + " has " + table.columns().size());
            }
        }
        AccessVersion version = AccessVersion.of(shown, tables);
        Path made = null;
        try {
            made = TemporaryFolder.newFile(".accdb");
            this.file = made;
            this.database = new DatabaseBuilder(made)
                    .setFileFormat(version.format())
                    .setAutoSync(false)
                    .create();
            database.setDateTimeType(DateTimeType.LOCAL_DATE_TIME);
            database.setEvaluateExpressions(false);
            // records may refer to some that come later
            database.setEnforceForeignKeys(false);
            this.making = new TableMaking(database, version);
        } catch (IOException e) {
            removeAfter(made, e);
            throw failed(e);
        }
    }

    private static void removeAfter(Path made, IOException failure) {
        if (made != null) {
            try {
                Files.deleteIfExists(made);
            } catch (IOException second) {
                failure.addSuppressed(second);
            }
        }
    }

    private PlaceException failed(Exception e) {
        return new PlaceException(shown, "can't be written: " + e.getMessage(), e);
    }

    @Override
    public RecordWriter writer(TableDefinition table) {
        return new Records(table, into(table));
    }

    /** The records of a table. */
    private final class Records implements RecordWriter {

        private final TableDefinition table;
        private final Table into;
        private final List<? extends Column> columns;

        Records(TableDefinition table, Table into) {
            this.table = table;
            this.into = into;
            this.columns = into.getColumns();
        }

        @Override
        public void write(RecordBatch batch) {
            if (screened.contains(table.name())) {
                return;
            }
            List<Object[]> rows = new ArrayList<>(batch.rows());
            for (int row = 0; row < batch.rows(); row++) {
                rows.add(values(table, columns, batch, row));
            }
            try {
                into.addRows(rows);
            } catch (IOException | RuntimeException e) {
                throw refused(table, batch, refusedRow(e), e);
            }
        }

        @Override
        public void finish() {
            // the file is finished as a whole
        }

        @Override
        public void close() {
            // the file is closed as a whole
        }
    }

    /** A record's values as the file has them. */
    private static Object[] values(TableDefinition table, List<? extends Column> columns, RecordBatch batch, int row) {
        Object[] values = new Object[columns.size()];
        for (int column = 0; column < values.length; column++) {
            if (!batch.isNull(row, column)) {
                ColumnDefinition definition = table.columns().get(column);
                Column held = columns.get(column);
                try {
                    values[column] = AccessValues.written(batch, row, column, definition.type(), held.getType());
                    boolean tooLong = held.getType() == DataType.TEXT
                            && values[column].toString().length() > held.getLengthInUnits();
                    if (tooLong) {
                        throw new InvalidValueException("has "
                                + values[column].toString().length() + " units of UTF-16, by which a desktop database"
                                + " counts the " + held.getLengthInUnits() + " that its column holds");
                    }
                } catch (InvalidValueException e) {
                    throw new BadValueException(
                            batch.origin(row), definition.name(), batch.text(row, column), e.getMessage());
                }
            }
        }
        return values;
    }

    /** A table is made when it is asked for first: what a column holds is known from then on. */
    @Override
    public Optional<Screen> screen(TableDefinition table) {
        return Optional.of(Screen.by((batch, row) -> values(table, into(table).getColumns(), batch, row)));
    }

    /** The library itself says which keys are the same: those of texts go by an order of its own. */
    @Override
    public Optional<Screen> writingScreen(TableDefinition table) {
        Table into = into(table);
        screened.add(table.name());
        return Optional.of((batch, rejects) -> taken(table, into, batch, rejects));
    }

    private void taken(TableDefinition table, Table into, RecordBatch batch, Rejects rejects) {
        boolean[] unwanted = new boolean[batch.rows()];
        List<Object[]> rows = new ArrayList<>(batch.rows());
        List<Integer> places = new ArrayList<>(batch.rows());
        for (int row = 0; row < unwanted.length; row++) {
            try {
                rows.add(values(table, into.getColumns(), batch, row));
                places.add(row);
            } catch (BadValueException e) {
                rejects.reject(e);
                unwanted[row] = true;
            }
        }
        for (int from = 0; from < rows.size(); ) {
            try {
                into.addRows(rows.subList(from, rows.size()));
                from = rows.size();
            } catch (IOException | RuntimeException e) {
                // those before it are in
                int row = places.get(from + refusedRow(e));
                rejects.reject(refused(table, batch, row, e));
                unwanted[row] = true;
                from += refusedRow(e) + 1;
            }
        }
        batch.removeRows(unwanted);
    }

    /** Which of the records that were added together is refused; it is none of them that a full disk is to blame for. */
    private int refusedRow(Exception e) {
        for (Throwable why = e; why != null; why = why.getCause()) {
            if (why instanceof IOException disk && !(why instanceof JackcessException)) {
                throw failed(TemporaryFolder.failed(disk));
            }
        }
        if (e instanceof BatchUpdateException refused) {
            return refused.getUpdateCount();
        }
        throw failed(e);
    }

    private static BadRecordException refused(TableDefinition table, RecordBatch batch, int row, Exception e) {
        Throwable why = e.getCause() == null ? e : e.getCause();
        return new BadRecordException(
                batch.origin(row),
                table.name().toString(),
                table.columnNames().get(0) + " = " + batch.text(row, 0),
                why instanceof ConstraintViolationException
                        ? "a record before it has the same key, or the same values of a unique index; texts that differ in the case of"
                                + " letters are the same there"
                        : String.valueOf(why.getMessage()),
                e);
    }

    private synchronized Table into(TableDefinition table) {
        Table made = written.get(table.name());
        if (made == null) {
            try {
                made = making.make(table);
            } catch (IOException | IllegalArgumentException e) {
                throw failed(e);
            }
            written.put(table.name(), made);
        }
        return made;
    }

    /** The library can't close a file twice. */
    private void end() throws IOException {
        if (!ended) {
            ended = true;
            database.close();
        }
    }

    @Override
    public void finish() {
        try {
            new Relationships(database, making, tables, written).make();
            end();
            Files.copy(file, out);
            out.flush();
        } catch (IOException e) {
            throw failed(e);
        }
    }

    @Override
    public List<Finding> findings() {
        return making.findings();
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return making.leftBehind();
    }

    @Override
    public void close() {
        try {
            try {
                end();
            } finally {
                Files.deleteIfExists(file);
                out.close();
            }
        } catch (IOException e) {
            throw failed(e);
        }
    }
}
