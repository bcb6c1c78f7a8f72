package org.orderlyferry.databases.sqlite;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;

/** Scripts for SQLite, and those that its own shell writes. */
final class SqliteScripting implements Scripting {

    /** So many digits always tell one double from the next. */
    private static final int MOST_DIGITS = 17;

    @Override
    public List<String> opening() {
        return List.of("PRAGMA foreign_keys = OFF", "BEGIN TRANSACTION");
    }

    @Override
    public List<String> closing() {
        return List.of("COMMIT");
    }

    @Override
    public String literal(ColumnDefinition column, String value) {
        return switch (column.type().name()) {
            case BOOLEAN -> value.equals("true") ? "1" : "0";
            case SMALLINT, INTEGER, BIGINT -> value;
            case REAL, DOUBLE -> value.replace("INF", "9e999");
            case TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE -> DefinitionSql.string(value.replace('T', ' '));
            default ->
                value.indexOf(0) < 0
                        ? DefinitionSql.string(value)
                        // a string ends at a NUL character, a text doesn't
                        : "CAST(X'" + HexFormat.of().formatHex(value.getBytes(StandardCharsets.UTF_8)) + "' AS TEXT)";
        };
    }

    /** SQLite adds no reference to a table that is there: they stand in CREATE TABLE. */
    @Override
    public List<String> references(TableDefinition table) {
        return List.of();
    }

    @Override
    public List<String> counter(TableDefinition table, ColumnDefinition column, long next) {
        String name = DefinitionSql.string(table.name().name());
        return SqliteColumnSql.hasCounter(table)
                ? List.of(
                        "DELETE FROM sqlite_sequence WHERE name = " + name,
                        "INSERT INTO sqlite_sequence (name, seq) VALUES (" + name + ", " + (next - 1) + ")")
                : List.of();
    }

    @Override
    public boolean countsNulls() {
        return true;
    }

    @Override
    public List<String> marks() {
        return List.of("PRAGMA foreign_keys", "for SQLite");
    }

    @Override
    public List<String> signs() {
        return List.of(
                "\\bAUTOINCREMENT\\b",
                "\\bPRAGMA\\b",
                "\\bWITHOUT\\s+ROWID\\b",
                "\\bINSERT\\s+OR\\s+(REPLACE|IGNORE)\\b",
                "\\bSQLITE_\\w+");
    }

    @Override
    public String ownType(String written) {
        return written.toUpperCase(Locale.ROOT).replaceAll("\\s+", " ");
    }

    @Override
    public String collation(List<String> path, String written) {
        return written.equalsIgnoreCase("BINARY")
                ? ""
                : path.get(path.size() - 1).toUpperCase(Locale.ROOT);
    }

    /** SQLite's shell writes floating point numbers with all digits of their binary form; fewer mean the same. */
    @Override
    public String number(String written, LogicalType type) {
        boolean floating = written.indexOf('.') >= 0 && written.length() > MOST_DIGITS;
        return floating ? new BigDecimal(Double.toString(Double.parseDouble(written))).toPlainString() : written;
    }

    @Override
    public Optional<ColumnDefault> defaultValue(String sql, LogicalType type) {
        return SqliteDefaults.read(sql, type);
    }
}
