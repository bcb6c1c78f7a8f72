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
import java.util.stream.Collectors;
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

    /** Nearly all columns hold what they say, so it is asked of all how many values don't, and of those alone what they are. */
    private List<ColumnDefinition> looked(Connection connection, TableName table, List<ColumnDefinition> columns)
            throws SQLException {
        List<String> conditions = new ArrayList<>(List.of("1"));
        columns.forEach(c -> conditions.add(fit(quote(c.name()), c.type())));
        List<Long> counts = asked(connection, table, conditions);
        List<ColumnDefinition> all = new ArrayList<>();
        for (int i = 0; i < columns.size(); i++) {
            ColumnDefinition column = columns.get(i);
            long misfits = counts.get(0) - counts.get(i + 1);
            all.add(misfits == 0 ? column : fitting(table, column, found(connection, table, column, misfits)));
        }
        return all;
    }

    private static Found found(Connection connection, TableName table, ColumnDefinition column, long misfits)
            throws SQLException {
        String name = quote(column.name());
        List<Long> kinds = asked(
                connection,
                table,
                List.of(
                        is(name, "integer"),
                        is(name, "real"),
                        is(name, "text"),
                        is(name, "blob"),
                        column.type().name().isTimed() ? isZoned(name) : "0",
                        is(name, "integer") + " AND (" + name + " > 9007199254740992 OR " + name
                                + " < -9007199254740992)"));
        return new Found(misfits, kinds.get(0), kinds.get(1), kinds.get(2), kinds.get(3), kinds.get(4), kinds.get(5));
    }

    /** For how many records each condition holds. One of CASE is asked no further than it must be. */
    private static List<Long> asked(Connection connection, TableName table, List<String> conditions)
            throws SQLException {
        String list = conditions.stream()
                .map(c -> "SUM(CASE WHEN " + c + " THEN 1 ELSE 0 END)")
                .collect(Collectors.joining(", "));
        List<Long> counts = new ArrayList<>();
        try (Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery("SELECT " + list + " FROM " + quote(table.name()))) {
            row.next();
            for (int i = 1; i <= conditions.size(); i++) {
                counts.add(row.getLong(i));
            }
        }
        return counts;
    }

    private static String quote(String name) {
        return '"' + name.replace("\"", "\"\"") + '"';
    }

    private ColumnDefinition fitting(TableName table, ColumnDefinition column, Found found) {
        LogicalType carried = carried(found);
        long values = found.whole() + found.real() + found.text() + found.blob();
        told.add(LeftBehind.of(
                table,
                "type",
                column.name(),
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

    /** A condition that holds for nulls and for values of a type; for others it holds not, or is unknown. */
    private static String fit(String c, LogicalType type) {
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
                    case TIMESTAMP -> dated(c, moment(c));
                    case TIMESTAMP_WITH_TIME_ZONE -> dated(c, isZoned(c));
                };
        return c + " IS NULL OR " + fits;
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

    /** Four digits of a year, and a day of it. */
    private static final String USUAL_DAY = "[0-9][0-9][0-9][0-9]-[01][0-9]-[0-3][0-9]";

    private static final String TIME_OF_DAY = "[0-2][0-9]:[0-5][0-9]:[0-5][0-9]";

    /** A day: its year may have a sign and more digits than SQLite's own functions take. */
    private static String day(String day) {
        String year = "substr(" + day + ", 1, length(" + day + ") - 6)";
        // what nearly all are is asked first: the rest takes ten times as long
        return "(" + day + " GLOB '" + USUAL_DAY + "' AND date(" + day + ") = " + day + " OR substr(" + day
                + ", -6) GLOB '-[01][0-9]-[0-3][0-9]' AND length(ltrim(" + year + ", '-')) >= 4 AND ltrim(" + year
                + ", '-') NOT GLOB '*[^0-9]*' AND (length(" + day + ") <> 10 OR date(" + day + ") = " + day + "))";
    }

    /** Where the time of day begins behind a day. */
    private static String mark(String c) {
        return "max(instr(" + c + ", 'T'), instr(" + c + ", ' '))";
    }

    /** A day of a year of four digits, and a time of day, at the places where they always are. */
    private static String usual(String c) {
        return c + " GLOB '" + USUAL_DAY + "[T ]" + TIME_OF_DAY + "*' AND date(substr(" + c + ", 1, 10)) = substr(" + c
                + ", 1, 10)";
    }

    private static String unusual(String c) {
        return mark(c) + " >= 11 AND " + day("substr(" + c + ", 1, " + mark(c) + " - 1)") + " AND substr(" + c + ", "
                + mark(c) + " + 1) GLOB '" + TIME_OF_DAY + "*'";
    }

    /** A moment without a zone: behind its seconds is nothing but a fraction. */
    private static String moment(String c) {
        return "(" + usual(c) + " AND substr(" + c + ", 20) NOT GLOB '*[^.0-9]*' OR " + unusual(c) + " AND substr(" + c
                + ", " + mark(c) + " + 9) NOT GLOB '*[^.0-9]*')";
    }

    private static String isZoned(String c) {
        return "(" + is(c, "text") + " AND (" + c + " LIKE '%Z' OR substr(" + c
                + ", -6) GLOB '[-+][0-9][0-9]:[0-9][0-9]') AND (" + usual(c) + " OR " + unusual(c) + "))";
    }
}
