package org.orderlyferry.databases.script;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.PossibleReferences;
import org.orderlyferry.databases.dialect.ReferenceFit;
import org.orderlyferry.databases.dialect.ReferencePaths;
import org.orderlyferry.databases.dialect.ReferenceRules;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.databases.dialect.SystemSql;
import org.orderlyferry.databases.dialect.ValueLimit;
import org.orderlyferry.databases.naming.NameMapping;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.Screen;
import org.orderlyferry.record.text.InvalidValueException;

/**
 * Writes a script: all tables, their records in statements of many rows, then keys, references and counters, in one
 * transaction where the system's definitions are part of one.
 */
final class ScriptWriter implements TablesWriter {

    /** Characters after which a statement ends, whatever rows it has: servers take statements of a few megabytes. */
    private static final int LONGEST = 512 * 1024;

    private final BufferedWriter out;
    private final String shown;
    private final SystemSql dialect;
    private final Scripting scripting;
    private final int rows;
    private final boolean bulk;
    private final LoadNotes notes = new LoadNotes();
    private final Map<TableName, TableDefinition> adapted = new LinkedHashMap<>();
    private final List<Finding> named;
    private final List<TableDefinition> tables;
    private final List<String> counters = new ArrayList<>();

    ScriptWriter(
            OutputStream out, String shown, SystemSql dialect, int rows, boolean bulk, List<TableDefinition> tables) {
        this.bulk = bulk;
        this.out = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8.newEncoder()), 64 * 1024);
        this.shown = shown;
        this.dialect = dialect;
        this.scripting = dialect.scripting();
        this.rows = Math.min(rows, scripting.mostRows());
        this.tables = tables;
        NameMapping names = new NameMapping(dialect.naming(), tables, List.of());
        var adapting = dialect.defining().adapting(notes);
        for (TableDefinition table : tables) {
            adapted.put(table.name(), adapting.adapt(names.map(table), names.columns(table.name())));
        }
        ReferenceRules rules = dialect.defining().references();
        new PossibleReferences(rules.referred(), name -> Optional.empty(), "not in the script", notes).settle(adapted);
        new ReferenceFit(dialect.defining()::canRefer, notes).unite(adapted, name -> Optional.empty());
        Set<TableName> own = tables.stream()
                .filter(t -> t.system().equals(dialect.system()))
                .map(TableDefinition::name)
                .collect(Collectors.toSet());
        new ReferencePaths(rules, dialect.system(), notes).settle(adapted, own::contains, name -> Optional.empty());
        this.named = names.findings();
        begin();
    }

    @Override
    public Optional<Screen> screen(TableDefinition table) {
        return Optional.of(Screen.byWriting(() ->
                new ScriptWriter(OutputStream.nullOutputStream(), shown, dialect, rows, bulk, tables).writer(table)));
    }

    private void begin() {
        line("-- Tables and records for " + dialect.system() + ", by Orderly Ferry");
        scripting.opening().forEach(sql -> line(sql + scripting.end(false)));
        Set<String> types = new LinkedHashSet<>();
        adapted.values().forEach(t -> types.addAll(scripting.types(t)));
        types.forEach(this::definition);
        Set<String> schemas = new LinkedHashSet<>();
        adapted.keySet().forEach(n -> schemas.add(adapted.get(n).name().schema()));
        schemas.remove("");
        schemas.forEach(s -> scripting.schema(dialect.quote(s)).ifPresent(this::statement));
        adapted.values().forEach(t -> dialect.defining().createStatements(t).forEach(this::definition));
    }

    private void definition(String sql) {
        statement(scripting.definition(sql));
    }

    private void statement(String sql) {
        line(sql + scripting.end(true));
    }

    private void line(String text) {
        try {
            out.write(text);
            out.write('\n');
        } catch (IOException e) {
            throw failed(e);
        }
    }

    @Override
    public RecordWriter writer(TableDefinition table) {
        return new TableWriter(table, adapted.get(table.name()));
    }

    /** One table's records. */
    private final class TableWriter implements RecordWriter {

        private final TableDefinition source;
        private final TableDefinition table;
        private final List<Integer> places = new ArrayList<>();
        private final List<ValueLimit> limits = new ArrayList<>();
        private final String head;
        private final String copyHead;
        private final Map<Integer, BigInteger> last = new LinkedHashMap<>();
        private boolean begun;
        private int inStatement;
        private long length;

        TableWriter(TableDefinition source, TableDefinition table) {
            this.source = source;
            this.table = table;
            List<String> names = new ArrayList<>();
            for (int i = 0; i < table.columns().size(); i++) {
                ColumnDefinition column = table.columns().get(i);
                limits.add(dialect.defining().limit(source.name(), column, notes));
                if (column.generation().isEmpty()) {
                    places.add(i);
                    names.add(dialect.quote(column.name()));
                }
            }
            this.copyHead = "COPY " + dialect.quote(table.name()) + " (" + String.join(", ", names) + ") FROM stdin";
            this.head = "INSERT INTO " + dialect.quote(table.name()) + " (" + String.join(scripting.separator(), names)
                    + ")"
                    + dialect.defining().insertClause(table) + " VALUES\n";
        }

        @Override
        public void write(RecordBatch batch) {
            try {
                for (int row = 0; row < batch.rows(); row++) {
                    if (bulk) {
                        if (inStatement++ == 0) {
                            statement(copyHead);
                        }
                        line(copied(batch, row));
                        continue;
                    }
                    String record = record(batch, row);
                    if (inStatement == rows || length > LONGEST) {
                        line(scripting.end(true));
                        inStatement = 0;
                        length = 0;
                    }
                    if (!begun) {
                        begun = true;
                        scripting.beforeRecords(table).forEach(ScriptWriter.this::statement);
                    }
                    out.write(inStatement == 0 ? head : ",\n");
                    out.write(record);
                    inStatement++;
                    length += record.length();
                }
            } catch (IOException e) {
                throw failed(e);
            }
        }

        private String record(Records batch, int row) {
            StringBuilder record = new StringBuilder("(");
            for (int place : places) {
                record.append(record.length() > 1 ? scripting.separator() : "").append(value(batch, row, place));
            }
            return record.append(')').toString();
        }

        /** A line of a block: values with tabs in between. */
        private String copied(Records batch, int row) {
            StringBuilder line = new StringBuilder();
            for (int place : places) {
                line.append(line.isEmpty() && place == places.get(0) ? "" : "\t");
                if (batch.isNull(row, place)) {
                    line.append("\\N");
                    continue;
                }
                ColumnDefinition column = source.columns().get(place);
                // looks at the value, and counts what a counter has to go past
                value(batch, row, place);
                String text = column.type().name().isBinary()
                        ? HexFormat.of().formatHex(batch.copy(row, place))
                        : batch.text(row, place);
                line.append(scripting.bulkValue(column, text).orElseThrow());
            }
            return line.toString();
        }

        private String value(Records batch, int row, int place) {
            ColumnDefinition column = table.columns().get(place);
            if (batch.isNull(row, place)) {
                return "NULL";
            }
            try {
                limits.get(place).check(batch, row, place);
                if (source.columns().get(place).type().name().isBinary()) {
                    return scripting.bytes(batch.copy(row, place));
                }
                String text = batch.text(row, place);
                if (column.identity().isPresent()) {
                    last.merge(place, new BigInteger(text), up(column) ? BigInteger::max : BigInteger::min);
                }
                return scripting.literal(source.columns().get(place), text);
            } catch (InvalidValueException | IllegalArgumentException e) {
                String shownValue = source.columns().get(place).type().name().isBinary()
                        ? HexFormat.of().formatHex(batch.copy(row, place))
                        : batch.text(row, place);
                throw new BadValueException(batch.origin(row), column.name(), shownValue, e.getMessage());
            }
        }

        private static boolean up(ColumnDefinition column) {
            return column.identity().orElseThrow().increment() > 0;
        }

        @Override
        public void finish() {
            if (inStatement > 0) {
                line(bulk ? "\\." : scripting.end(true));
            }
            if (begun) {
                scripting.afterRecords(table).forEach(ScriptWriter.this::statement);
            }
            for (int i = 0; i < table.columns().size(); i++) {
                ColumnDefinition column = table.columns().get(i);
                if (column.identity().isPresent()) {
                    counters.addAll(scripting.counter(table, column, next(column, last.get(i))));
                }
            }
        }

        /** Past the highest value, and not before what the source would give. */
        private static long next(ColumnDefinition column, BigInteger highest) {
            Identity identity = column.identity().orElseThrow();
            if (highest == null) {
                return identity.next();
            }
            long after = highest.longValue() + (up(column) ? 1 : -1);
            return up(column) ? Math.max(identity.next(), after) : Math.min(identity.next(), after);
        }

        @Override
        public void close() {
            // the file is closed as a whole
        }
    }

    @Override
    public void finish() {
        adapted.values().forEach(t -> dialect.defining().keyStatements(t).forEach(this::definition));
        adapted.values().forEach(t -> scripting.references(t).forEach(this::definition));
        counters.forEach(this::statement);
        scripting.closing().forEach(sql -> line(sql + scripting.end(false)));
        try {
            out.flush();
        } catch (IOException e) {
            throw failed(e);
        }
    }

    @Override
    public List<Finding> findings() {
        List<Finding> all = new ArrayList<>(named);
        all.addAll(notes.findings());
        return all;
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return notes.leftBehind();
    }

    private PlaceException failed(IOException e) {
        return new PlaceException(shown, "can't be written: " + e.getMessage(), e);
    }

    @Override
    public void close() {
        try {
            out.close();
        } catch (IOException e) {
            throw failed(e);
        }
    }
}
