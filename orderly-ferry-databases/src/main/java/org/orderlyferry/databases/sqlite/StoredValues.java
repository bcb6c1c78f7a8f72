package org.orderlyferry.databases.sqlite;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.WeakHashMap;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;

/**
 * What SQLite's columns really hold. A declared type is no more than a proposal there: any column takes any value. So a
 * database that is read is asked once, table by table, whether its values are what their columns say; a column that
 * holds others is carried as numbers, text or bytes, whatever holds all of it, and that is told.
 */
final class StoredValues {

    /** SQLite gives no more than 2,000 columns at once. */
    private static final int AT_ONCE = 150;

    private static final Map<Connection, StoredValues> KNOWN = Collections.synchronizedMap(new WeakHashMap<>());

    private final Map<TableName, TableDefinition> confirmed = new HashMap<>();
    private final List<LeftBehind> told = new ArrayList<>();

    /** What was found out by a connection, which sees one state of the database. */
    static StoredValues of(Connection connection) {
        return KNOWN.computeIfAbsent(connection, c -> new StoredValues());
    }

    /** Columns that are carried as something else than they were declared, of the tables that were asked for so far. */
    List<LeftBehind> told() {
        return List.copyOf(told);
    }

    /** A definition whose types hold all values that are there. */
    TableDefinition confirm(Connection connection, TableDefinition declared) throws SQLException {
        TableDefinition known = confirmed.get(declared.name());
        if (known == null) {
            known = looked(connection, declared);
            confirmed.put(declared.name(), known);
        }
        return known;
    }

    private TableDefinition looked(Connection connection, TableDefinition declared) throws SQLException {
        List<ColumnDefinition> columns = new ArrayList<>();
        for (int from = 0; from < declared.columns().size(); from += AT_ONCE) {
            columns.addAll(looked(
                    connection,
                    declared.name(),
                    declared.columns().subList(from, Math.min(declared.columns().size(), from + AT_ONCE))));
        }
        return declared.toBuilder().columns(columns).build();
    }

    /**
     * How many values of a column are of which kind.
     *
     * @param misfits are none of the declared type
     * @param zoned are moments with a zone
     */
    private record Found(long misfits, long whole, long real, long text, long blob, long zoned, long tooLarge) {}

    private List<ColumnDefinition> looked(Connection connection, TableName table, List<ColumnDefinition> columns)
            throws SQLException {
        List<String> asked = new ArrayList<>();
        for (ColumnDefinition column : columns) {
            String name = quote(column.name());
            asked.add(misfit(name, column.type()).map(m -> "SUM(" + m + ")").orElse("0"));
            for (String kind : List.of("integer", "real", "text", "blob")) {
                asked.add("SUM(typeof(" + name + ") = '" + kind + "')");
            }
            asked.add(column.type().name().isTimed() ? "SUM(" + isZoned(name) + ")" : "0");
            asked.add("SUM(typeof(" + name + ") = 'integer' AND (" + name + " > 9007199254740992 OR " + name
                    + " < -9007199254740992))");
        }
        List<ColumnDefinition> all = new ArrayList<>();
        try (Statement statement = connection.createStatement();
                ResultSet row =
                        statement.executeQuery("SELECT " + String.join(", ", asked) + " FROM " + quote(table.name()))) {
            row.next();
            int at = 1;
            for (ColumnDefinition column : columns) {
                Found found = new Found(
                        row.getLong(at),
                        row.getLong(at + 1),
                        row.getLong(at + 2),
                        row.getLong(at + 3),
                        row.getLong(at + 4),
                        row.getLong(at + 5),
                        row.getLong(at + 6));
                at += 7;
                all.add(fitting(table, column, found));
            }
        }
        return all;
    }

    private static String quote(String name) {
        return '"' + name.replace("\"", "\"\"") + '"';
    }

    private ColumnDefinition fitting(TableName table, ColumnDefinition column, Found found) {
        if (found.misfits() == 0) {
            return column;
        }
        LogicalType carried = carried(found);
        long values = found.whole() + found.real() + found.text() + found.blob();
        told.add(new LeftBehind(
                "type",
                table + "." + column.name(),
                String.format(
                        java.util.Locale.ROOT,
                        "is declared %s, and %,d of %,d values are none; the column is carried as %s",
                        column.sourceType().isEmpty() ? "without a type" : column.sourceType(),
                        found.misfits(),
                        values,
                        carried)));
        // a default is a value of the declared type, and may be none of the other
        return column.toBuilder().defaultValue(Optional.empty()).build().withType(carried);
    }

    /** The narrowest type that holds all values as they are. */
    private static LogicalType carried(Found found) {
        if (found.blob() > 0) {
            return LogicalType.BLOB;
        }
        if (found.text() == 0) {
            return found.real() == 0
                    ? LogicalType.BIGINT
                    : found.tooLarge() == 0 ? LogicalType.DOUBLE : LogicalType.CLOB;
        }
        boolean moments = found.zoned() == found.text() && found.whole() + found.real() == 0;
        return moments ? LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, 9) : LogicalType.CLOB;
    }

    /** A condition that holds for values that are none of a type; nothing where every value is one. */
    private static Optional<String> misfit(String c, LogicalType type) {
        String fits =
                switch (type.name()) {
                    case BOOLEAN ->
                        is(c, "integer") + " AND " + c + " IN (0, 1) OR " + is(c, "text") + " AND lower(" + c
                                + ") IN ('true', 'false', '0', '1')";
                    case SMALLINT -> whole(c, "-32768", "32767");
                    case INTEGER -> whole(c, "-2147483648", "2147483647");
                    case BIGINT -> is(c, "integer");
                    case DECIMAL -> decimal(c, type);
                    case REAL -> is(c, "real") + " OR " + whole(c, "-16777216", "16777216");
                    case DOUBLE -> is(c, "real") + " OR " + whole(c, "-9007199254740992", "9007199254740992");
                    case CHARACTER, VARCHAR ->
                        "typeof(" + c + ") <> 'blob'"
                                + (type.isSized() ? " AND length(" + c + ") <= " + type.size() : "");
                    case CLOB, XML, INTERVAL, ARRAY -> "typeof(" + c + ") <> 'blob'";
                    case JSON -> is(c, "text") + " AND json_valid(" + c + ")";
                    case UUID -> is(c, "text") + " AND length(" + c + ") = 36 AND " + c + " GLOB '*-*-*-*-*'";
                    case BINARY, VARBINARY ->
                        is(c, "blob") + (type.isSized() ? " AND length(" + c + ") <= " + type.size() : "");
                    case BLOB -> is(c, "blob");
                    case DATE -> dated(c, day(c));
                    case TIME ->
                        dated(c, "length(" + c + ") >= 8 AND substr(time(" + c + "), 1, 8) = substr(" + c + ", 1, 8)");
                    case TIMESTAMP -> dated(c, moment(c) + " AND NOT " + isZoned(c));
                    case TIMESTAMP_WITH_TIME_ZONE -> dated(c, isZoned(c));
                };
        return Optional.of("CASE WHEN " + c + " IS NULL OR " + fits + " THEN 0 ELSE 1 END");
    }

    private static String is(String c, String kind) {
        return "typeof(" + c + ") = '" + kind + "'";
    }

    private static String whole(String c, String least, String most) {
        return is(c, "integer") + " AND " + c + " BETWEEN " + least + " AND " + most;
    }

    /** Numbers that are within the precision and have no digits behind the scale; texts that are such numbers. */
    private static String decimal(String c, LogicalType type) {
        String text = is(c, "text") + " AND " + c + " GLOB '*[0-9]*' AND " + c + " NOT GLOB '*[^-0-9.]*' AND substr("
                + c + ", 2) NOT LIKE '%-%' AND " + c + " NOT LIKE '%.%.%'";
        if (!type.isSized()) {
            return "typeof(" + c + ") IN ('integer', 'real') OR " + text;
        }
        int scale = Math.max(0, type.scale());
        String number = "typeof(" + c + ") IN ('integer', 'real') AND abs(" + c + ") < 1e" + (type.size() - scale)
                + " AND round(" + c + ", " + Math.min(15, scale) + ") = " + c;
        String places = " AND (instr(" + c + ", '.') = 0 OR length(" + c + ") - instr(" + c + ", '.') <= " + scale + ")"
                + " AND length(replace(" + c + ", '-', '')) <= " + (type.size() + 2);
        return number + " OR " + text + places;
    }

    private static String dated(String c, String form) {
        return is(c, "text") + " AND " + form;
    }

    /** A day: its year may have a sign and more digits than SQLite's own functions take. */
    private static String day(String day) {
        String year = "substr(" + day + ", 1, length(" + day + ") - 6)";
        return "(substr(" + day + ", -6) GLOB '-[01][0-9]-[0-3][0-9]' AND length(ltrim(" + year
                + ", '-')) >= 4 AND ltrim(" + year + ", '-') NOT GLOB '*[^0-9]*' AND (length(" + day
                + ") <> 10 OR date("
                + day + ") = " + day + "))";
    }

    /** Where the time of day begins behind a day. */
    private static String mark(String c) {
        return "max(instr(" + c + ", 'T'), instr(" + c + ", ' '))";
    }

    private static String begins(String c) {
        return mark(c) + " >= 11 AND " + day("substr(" + c + ", 1, " + mark(c) + " - 1)") + " AND substr(" + c + ", "
                + mark(c) + " + 1) GLOB '[0-2][0-9]:[0-5][0-9]:[0-5][0-9]*'";
    }

    private static String moment(String c) {
        return "(" + begins(c) + " AND substr(" + c + ", " + mark(c) + " + 9) NOT GLOB '*[^.0-9]*')";
    }

    private static String isZoned(String c) {
        return "(" + is(c, "text") + " AND " + begins(c) + " AND (" + c + " LIKE '%Z' OR substr(" + c
                + ", -6) GLOB '[-+][0-9][0-9]:[0-9][0-9]'))";
    }
}
