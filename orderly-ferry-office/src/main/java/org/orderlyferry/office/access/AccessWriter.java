package org.orderlyferry.office.access;

import com.healthmarketscience.jackcess.Column;
import com.healthmarketscience.jackcess.ColumnBuilder;
import com.healthmarketscience.jackcess.DataType;
import com.healthmarketscience.jackcess.Database;
import com.healthmarketscience.jackcess.DatabaseBuilder;
import com.healthmarketscience.jackcess.DateTimeType;
import com.healthmarketscience.jackcess.IndexBuilder;
import com.healthmarketscience.jackcess.PropertyMap;
import com.healthmarketscience.jackcess.RelationshipBuilder;
import com.healthmarketscience.jackcess.Table;
import com.healthmarketscience.jackcess.TableBuilder;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.BadRecordException;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
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
    private final AccessVersion version;
    private final Path file;
    private final Database database;
    private final AccessNames names = new AccessNames();
    private final Map<TableName, Table> written = new HashMap<>();
    private final Map<TableName, Map<String, String>> columnNames = new HashMap<>();
    private final List<Finding> findings = new ArrayList<>();
    private final List<LeftBehind> leftBehind = new ArrayList<>();
    private boolean ended;

    AccessWriter(OutputStream out, String shown, List<TableDefinition> tables) {
        this.out = out;
        this.shown = shown;
        this.tables = List.copyOf(tables);
        this.version = AccessVersion.of(shown, tables);
        Path made = null;
        try {
            made = Files.createTempFile("orderly-ferry-", ".accdb");
            this.file = made;
            this.database = new DatabaseBuilder(made)
                    .setFileFormat(version.format())
                    .setAutoSync(false)
                    .create();
            database.setDateTimeType(DateTimeType.LOCAL_DATE_TIME);
            database.setEvaluateExpressions(false);
            // records may refer to some that come later
            database.setEnforceForeignKeys(false);
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
        if (table.columns().size() > MOST_COLUMNS) {
            throw new UsageException("a table of a desktop database has at most " + MOST_COLUMNS + " columns, and "
                    + table.name() + " has " + table.columns().size());
        }
        return new Records(table, into(table));
    }

    private Table made(TableDefinition table) throws IOException {
        String name = named(names, table.name().toString(), table, "");
        TableBuilder builder = new TableBuilder(name);
        builder.putProperty(AccessDefinitions.NAME, DataType.MEMO, table.name().toString());
        comment(table.comment()).forEach(builder::putProperty);
        AccessNames inTable = new AccessNames();
        Map<String, String> inFile = new HashMap<>();
        boolean counted = false;
        for (ColumnDefinition column : table.columns()) {
            String columnName = named(inTable, column.name(), table, column.name());
            inFile.put(column.name(), columnName);
            ColumnBuilder made = AccessTypes.column(column, columnName, version);
            made.putProperty(AccessDefinitions.NAME, DataType.MEMO, column.name());
            made.putProperty(
                    AccessDefinitions.TYPE, DataType.MEMO, column.type().toString());
            properties(column, made);
            if (column.identity().isPresent() && made.getType() == DataType.LONG && !counted) {
                made.setAutoNumber(true);
                counted = true;
            } else if (column.identity().isPresent()) {
                leftBehind.add(new LeftBehind(
                        "identity",
                        table.name() + "." + column.name(),
                        "only one whole number of 32 bits counts by itself"));
            }
            if (!AccessTypes.isSame(column.type(), made.getType())) {
                findings.add(new Finding(
                        FindingCode.TYPE_CHANGED,
                        table.name(),
                        column.name(),
                        column.type() + " is held as " + made.getType() + ", which a desktop database has for it"));
            }
            builder.addColumn(made);
        }
        columnNames.put(table.name(), inFile);
        keys(table, inFile, builder);
        Table made = builder.toTable(database);
        made.setAllowAutoNumberInsert(true);
        return made;
    }

    private String named(AccessNames from, String wanted, TableDefinition table, String column) {
        String given = from.of(wanted);
        if (!given.equals(wanted)) {
            findings.add(new Finding(
                    FindingCode.NAME_CHANGED,
                    table.name(),
                    column,
                    "stands there as " + given + ", for the file's rules"));
        }
        return given;
    }

    private static Map<String, Object> comment(String text) {
        return text.isEmpty() ? Map.of() : Map.of(PropertyMap.DESCRIPTION_PROP, text);
    }

    private static void properties(ColumnDefinition column, ColumnBuilder made) {
        comment(column.comment()).forEach(made::putProperty);
        if (!column.nullable()) {
            made.putProperty(PropertyMap.REQUIRED_PROP, DataType.BOOLEAN, true);
        }
        if (made.getType() == DataType.TEXT || made.getType() == DataType.MEMO) {
            made.putProperty(PropertyMap.ALLOW_ZERO_LEN_PROP, DataType.BOOLEAN, true);
        }
        if (column.defaultValue().orElse(null) instanceof ColumnDefault.Literal literal
                && !column.type().name().isBinary()) {
            made.putProperty(
                    PropertyMap.DEFAULT_VALUE_PROP,
                    DataType.MEMO,
                    column.type().name().isExactNumber()
                            ? literal.text()
                            : "\"" + literal.text().replace("\"", "\"\"") + "\"");
        }
    }

    private void keys(TableDefinition table, Map<String, String> inFile, TableBuilder builder) {
        Set<String> long_ = new HashSet<>();
        builder.getColumns().stream()
                .filter(c -> c.getType() == DataType.MEMO || c.getType() == DataType.OLE)
                .forEach(c -> long_.add(c.getName()));
        AccessNames indexes = new AccessNames();
        table.primaryKey().ifPresent(key -> {
            if (canIndex(table, "primary key", key.shown(), key.columns(), inFile, long_)) {
                builder.addIndex(new LocalIndexBuilder(indexes.of(IndexBuilder.PRIMARY_KEY_NAME))
                        .addColumns(inFile(key.columns(), inFile))
                        .setPrimaryKey());
            }
        });
        for (Key key : table.uniqueKeys()) {
            if (canIndex(table, "unique key", key.shown(), key.columns(), inFile, long_)) {
                builder.addIndex(new LocalIndexBuilder(indexes.of(key.name().isEmpty() ? "unique" : key.name()))
                        .addColumns(inFile(key.columns(), inFile))
                        .setUnique()
                        .setIgnoreNulls());
            }
        }
        for (IndexDefinition index : table.indexes()) {
            if (!index.isPlain()) {
                leftBehind.add(
                        new LeftBehind("index", table.name() + "." + index.shown(), "it is by more than columns"));
            } else if (canIndex(table, "index", index.shown(), index.columns(), inFile, long_)) {
                IndexBuilder made =
                        new LocalIndexBuilder(indexes.of(index.name().isEmpty() ? "index" : index.name()));
                for (IndexDefinition.Part part : index.parts()) {
                    made.addColumns(!part.descending(), inFile.get(part.column()));
                }
                builder.addIndex(index.unique() ? made.setUnique().setIgnoreNulls() : made);
            }
        }
    }

    private boolean canIndex(
            TableDefinition table,
            String kind,
            String name,
            List<String> columns,
            Map<String, String> inFile,
            Set<String> tooLong) {
        boolean can = columns.stream().map(inFile::get).noneMatch(tooLong::contains);
        if (!can) {
            leftBehind.add(new LeftBehind(kind, table.name() + "." + name, "long texts and objects can't be indexed"));
        }
        return can;
    }

    private static String[] inFile(List<String> columns, Map<String, String> names) {
        return columns.stream().map(names::get).toArray(String[]::new);
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
            for (int row = 0; row < batch.rows(); row++) {
                Object[] values = new Object[columns.size()];
                for (int column = 0; column < values.length; column++) {
                    values[column] = value(batch, row, column);
                }
                add(batch, row, values);
            }
        }

        private Object value(RecordBatch batch, int row, int column) {
            if (batch.isNull(row, column)) {
                return null;
            }
            ColumnDefinition definition = table.columns().get(column);
            try {
                return AccessValues.written(
                        batch,
                        row,
                        column,
                        definition.type(),
                        columns.get(column).getType());
            } catch (InvalidValueException e) {
                throw new BadValueException(
                        batch.origin(row), definition.name(), batch.text(row, column), e.getMessage());
            }
        }

        private void add(RecordBatch batch, int row, Object[] values) {
            try {
                into.addRow(values);
            } catch (IOException | RuntimeException e) {
                if (e.getCause() instanceof java.nio.file.FileSystemException
                        || String.valueOf(e.getMessage()).contains("No space left")) {
                    throw failed(e);
                }
                throw new BadRecordException(
                        batch.origin(row),
                        table.name().toString(),
                        table.columnNames().get(0) + " = " + batch.text(row, 0),
                        String.valueOf(e.getMessage()),
                        e);
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

    private synchronized Table into(TableDefinition table) {
        Table made = written.get(table.name());
        if (made == null) {
            try {
                made = made(table);
            } catch (IOException | IllegalArgumentException e) {
                throw failed(e);
            }
            written.put(table.name(), made);
        }
        return made;
    }

    private void relationships() throws IOException {
        AccessNames taken = new AccessNames();
        for (TableDefinition table : tables) {
            for (ForeignKey key : table.foreignKeys()) {
                Table to = written.get(key.target());
                Table from = written.get(table.name());
                if (to == null || from == null) {
                    leftBehind.add(new LeftBehind(
                            "foreign key", table.name() + "." + key.shown(), "its table isn't in the file"));
                    continue;
                }
                RelationshipBuilder builder = new RelationshipBuilder(to, from)
                        .setName(taken.of(key.name().isEmpty() ? from.getName() + to.getName() : key.name()))
                        .setReferentialIntegrity();
                for (int i = 0; i < key.columns().size(); i++) {
                    builder.addColumns(
                            columnNames
                                    .get(key.target())
                                    .get(key.targetColumns().get(i)),
                            columnNames.get(table.name()).get(key.columns().get(i)));
                }
                rules(table, key, builder);
                related(table, key, builder);
            }
        }
    }

    private void rules(TableDefinition table, ForeignKey key, RelationshipBuilder builder) {
        if (key.onUpdate() == ReferentialAction.CASCADE) {
            builder.setCascadeUpdates();
        }
        if (key.onDelete() == ReferentialAction.CASCADE) {
            builder.setCascadeDeletes();
        } else if (key.onDelete() == ReferentialAction.SET_NULL) {
            builder.setCascadeNullOnDelete();
        }
        boolean other = key.onDelete() == ReferentialAction.SET_DEFAULT
                || key.onUpdate() == ReferentialAction.SET_DEFAULT
                || key.onUpdate() == ReferentialAction.SET_NULL;
        if (other) {
            leftBehind.add(new LeftBehind(
                    "referential action", table.name() + "." + key.shown(), "a desktop database hasn't SET DEFAULT"));
        }
    }

    /** What the library can't relate, such as columns without a key or of several types, is told. */
    private void related(TableDefinition table, ForeignKey key, RelationshipBuilder builder) throws IOException {
        try {
            builder.toRelationship(database);
        } catch (IllegalArgumentException e) {
            leftBehind.add(new LeftBehind("foreign key", table.name() + "." + key.shown(), e.getMessage()));
        }
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
            relationships();
            end();
            Files.copy(file, out);
            out.flush();
        } catch (IOException e) {
            throw failed(e);
        }
    }

    @Override
    public List<Finding> findings() {
        return findings;
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return leftBehind;
    }

    @Override
    public void close() {
        try {
            try {
                end();
                Files.deleteIfExists(file);
            } finally {
                out.close();
            }
        } catch (IOException e) {
            throw failed(e);
        }
    }
}
