package org.orderlyferry.databases.loading;

import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Records;

/**
 * Keeps, of a load that is only tried, the record with the longest entry for each key and index, and tries in the end whether
 * the system takes it: how long an entry may be depends on how well its server packs it. Safe for use by several writers.
 */
final class LongKeys {

    private final TableName shown;
    private final TableDefinition table;
    private final int least;
    private final List<Entry> entries = new ArrayList<>();

    /**
     * Of one table.
     *
     * @param shown its name for messages
     * @param least how many bytes an entry must have to be tried; 0 where none is ever too long
     */
    LongKeys(TableName shown, TableDefinition table, int least) {
        this.shown = shown;
        this.table = table;
        this.least = least;
        if (least > 0) {
            table.primaryKey().ifPresent(k -> add("primary key", k.shown(), k.columns()));
            table.uniqueKeys().forEach((Key k) -> add("unique key", k.shown(), k.columns()));
            table.indexes().stream()
                    .filter(IndexDefinition::isPlain)
                    .forEach(i -> add("index", i.shown(), i.columns()));
        }
    }

    private void add(String kind, String name, List<String> columns) {
        entries.add(new Entry(
                kind + " " + name,
                columns.stream().mapToInt(table.columnNames()::indexOf).toArray()));
    }

    /** The longest entry of one key so far. */
    private static final class Entry {
        private final String shown;
        private final int[] columns;
        private int longest;
        private byte[][] values;

        Entry(String shown, int[] columns) {
            this.shown = shown;
            this.columns = columns;
        }

        void look(Records batch, int row) {
            int bytes = 0;
            for (int column : columns) {
                bytes += batch.isNull(row, column) ? 0 : batch.end(row, column) - batch.start(row, column);
            }
            if (bytes > longest) {
                longest = bytes;
                values = Arrays.stream(columns)
                        .mapToObj(c -> batch.isNull(row, c) ? null : batch.copy(row, c))
                        .toArray(byte[][]::new);
            }
        }
    }

    /** Looks at records that another writer takes. */
    RecordWriter looking(RecordWriter writer) {
        if (entries.isEmpty()) {
            return writer;
        }
        return new RecordWriter() {
            @Override
            public void write(RecordBatch batch) {
                synchronized (LongKeys.this) {
                    for (Entry entry : entries) {
                        for (int row = 0; row < batch.rows(); row++) {
                            entry.look(batch, row);
                        }
                    }
                }
                writer.write(batch);
            }

            @Override
            public void finish() {
                writer.finish();
            }

            @Override
            public void close() {
                writer.close();
            }
        };
    }

    /** Tries those that may be too long, in a table that only the session sees; tells how many would be refused. */
    int run(Session session, LoadNotes notes) {
        int refused = 0;
        for (Entry entry : entries) {
            if (entry.longest >= least) {
                Optional<String> why = session.work("an index can't be tried", () -> tried(session, entry));
                if (why.isPresent()) {
                    notes.finding(
                            FindingCode.DEFINITION_REFUSED,
                            shown,
                            "",
                            "its " + entry.shown + " would be refused, and can be left behind by its name: "
                                    + why.get());
                    refused++;
                }
            }
        }
        return refused;
    }

    private Optional<String> tried(Session session, Entry entry) throws SQLException {
        List<ColumnDefinition> columns =
                Arrays.stream(entry.columns).mapToObj(table.columns()::get).toList();
        String name = session.dialect().quote("orderly_ferry_try");
        List<String> types = columns.stream()
                .map(c -> session.dialect().types().own(c.type()))
                .toList();
        String list = IntStream.range(0, types.size()).mapToObj(i -> "c" + i).collect(Collectors.joining(", "));
        try {
            session.execute("CREATE TEMPORARY TABLE " + name + " ("
                    + IntStream.range(0, types.size())
                            .mapToObj(i -> "c" + i + " " + types.get(i))
                            .collect(Collectors.joining(", "))
                    + ")");
            insert(session, name, types, columns, entry);
            session.execute("CREATE INDEX " + session.dialect().quote("orderly_ferry_try_i") + " ON " + name + " ("
                    + list + ")");
            return Optional.empty();
        } catch (SQLException e) {
            return Optional.of(session.explained(e).replaceFirst("; the statement was: .*", ""));
        } finally {
            session.rollback();
        }
    }

    private static void insert(
            Session session, String name, List<String> types, List<ColumnDefinition> columns, Entry entry)
            throws SQLException {
        String marks = IntStream.range(0, types.size())
                .mapToObj(i ->
                        columns.get(i).type().name().isBinary() ? "?" : "CAST(CAST(? AS TEXT) AS " + types.get(i) + ")")
                .collect(Collectors.joining(", "));
        try (PreparedStatement insert =
                session.connection().prepareStatement("INSERT INTO " + name + " VALUES (" + marks + ")")) {
            for (int i = 0; i < columns.size(); i++) {
                byte[] value = entry.values[i];
                if (columns.get(i).type().name().isBinary()) {
                    insert.setBytes(i + 1, value);
                } else {
                    insert.setString(
                            i + 1, value == null ? null : new String(value, java.nio.charset.StandardCharsets.UTF_8));
                }
            }
            insert.executeUpdate();
        }
    }
}
