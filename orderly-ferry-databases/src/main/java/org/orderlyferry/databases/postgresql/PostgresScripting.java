package org.orderlyferry.databases.postgresql;

import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.databases.dialect.TypeWords;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Enumeration;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;

/** Scripts for PostgreSQL, and those that its own tools write. */
final class PostgresScripting implements Scripting {

    private static final TypeWords WORDS = TypeWords.of(
            "character varying: varchar, char varying, national character varying, national char varying, nvarchar",
            "character: char, bpchar, nchar, national character, national char",
            "numeric: decimal, dec",
            "integer: int, int4, serial, serial4",
            "bigint: int8, bigserial, serial8",
            "smallint: int2, smallserial, serial2",
            "boolean: bool",
            "double precision: float8",
            "real: float4",
            "timestamp with time zone: timestamptz",
            "time with time zone: timetz",
            "bit varying: varbit");

    private static final Pattern OCTAL = Pattern.compile("[0-3][0-7]{2}");

    private static final Pattern SIZE = Pattern.compile("\\([0-9,-]+\\)");

    private final PostgresDialect dialect;

    PostgresScripting(PostgresDialect dialect) {
        this.dialect = dialect;
    }

    @Override
    public List<String> opening() {
        return List.of(
                "SET client_encoding = 'UTF8'", "SET standard_conforming_strings = on", "SET TIME ZONE 'UTC'", "BEGIN");
    }

    /** In its newer form, of hexadecimal digits, or in its older one, where a backslash is in front of three octal digits. */
    @Override
    public String bytesOf(String text) {
        if (text.startsWith("\\x")) {
            return new String(HexFormat.of().parseHex(text.substring(2)), StandardCharsets.ISO_8859_1);
        }
        StringBuilder bytes = new StringBuilder();
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c != '\\') {
                bytes.append(c);
            } else if (text.startsWith("\\", i + 1)) {
                bytes.append(c);
                i++;
            } else if (OCTAL.matcher(text).region(i + 1, text.length()).lookingAt()) {
                bytes.append((char) Integer.parseInt(text.substring(i + 1, i + 4), 8));
                i += 3;
            } else {
                throw new IllegalArgumentException("has a backslash in front of what is no byte");
            }
        }
        return bytes.toString();
    }

    @Override
    public List<String> closing() {
        return List.of("COMMIT");
    }

    @Override
    public List<String> types(TableDefinition table) {
        return table.columns().stream()
                .flatMap(c -> c.enumeration().stream())
                .filter(e -> !e.name().isEmpty())
                .distinct()
                .map(this::type)
                .toList();
    }

    private String type(Enumeration enumeration) {
        return "CREATE TYPE " + dialect.quote(enumeration.name()) + " AS ENUM ("
                + enumeration.values().stream().map(DefinitionSql::string).collect(Collectors.joining(", ")) + ")";
    }

    @Override
    public String literal(ColumnDefinition column, String value) {
        return switch (column.type().name()) {
            case BOOLEAN, SMALLINT, INTEGER, BIGINT, DECIMAL -> value;
            case DATE, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE ->
                DefinitionSql.string(PostgresCells.own(value, column.type()));
            case REAL, DOUBLE, ARRAY -> {
                try {
                    yield DefinitionSql.string(CopyText.of(value, column.type()));
                } catch (SQLException e) {
                    throw new IllegalArgumentException(e.getMessage(), e);
                }
            }
            default -> DefinitionSql.string(value);
        };
    }

    @Override
    public Optional<String> bulkValue(ColumnDefinition column, String value) {
        String text =
                switch (column.type().name()) {
                    case BINARY, VARBINARY, BLOB -> "\\x" + value;
                    case BOOLEAN, SMALLINT, INTEGER, BIGINT, DECIMAL -> value;
                    default -> {
                        String literal = literal(column, value);
                        yield literal.substring(1, literal.length() - 1).replace("''", "'");
                    }
                };
        return Optional.of(text.replace("\\", "\\\\")
                .replace("\t", "\\t")
                .replace("\n", "\\n")
                .replace("\r", "\\r"));
    }

    @Override
    public String bytes(byte[] value) {
        return "'\\x" + HexFormat.of().formatHex(value) + "'";
    }

    @Override
    public List<String> references(TableDefinition table) {
        return new DefinitionSql(dialect).references(table);
    }

    @Override
    public List<String> counter(TableDefinition table, ColumnDefinition column, long next) {
        return List.of("SELECT setval(pg_get_serial_sequence(" + DefinitionSql.string(dialect.quote(table.name()))
                + ", " + DefinitionSql.string(column.name()) + "), " + next + ", false)");
    }

    /** Of ASCII alone: so it does in UTF-8. */
    @Override
    public String folded(String name) {
        StringBuilder folded = new StringBuilder(name);
        for (int i = 0; i < name.length(); i++) {
            char c = name.charAt(i);
            if (c >= 'A' && c <= 'Z') {
                folded.setCharAt(i, Character.toLowerCase(c));
            }
        }
        return folded.toString();
    }

    @Override
    public List<String> marks() {
        return List.of("PostgreSQL database dump", "for PostgreSQL", "SET client_encoding", "SELECT pg_catalog.");
    }

    @Override
    public List<String> signs() {
        return List.of(
                "::\\s*\\w",
                "\\b(BIG|SMALL)?SERIAL[248]?\\b",
                "\\bNEXTVAL\\s*\\(",
                "\\b(BYTEA|JSONB|TIMESTAMPTZ|REGCLASS|INET|TSVECTOR)\\b",
                "\\bFROM\\s+STDIN\\b",
                "\\bOWNER\\s+TO\\b",
                "\\bPLPGSQL\\b",
                "\\bUSING\\s+(BTREE|GIN|GIST)\\s*\\(",
                "\\bCREATE\\s+EXTENSION\\b",
                "\\bWITHOUT\\s+OIDS\\b",
                "\\bTEXT\\s*\\[\\s*\\]");
    }

    @Override
    public String ownType(String written) {
        String own = WORDS.own(written);
        return own.startsWith("float")
                ? TypeWords.isSingle(own) ? "real" : "double precision"
                : own.replaceFirst("^(time|timestamp)(\\(\\d\\))?(\\[\\])?$", "$1$2 without time zone$3");
    }

    /** The catalogue's own need no schema. */
    @Override
    public String collation(List<String> path, String written) {
        boolean own = path.size() > 1 && path.get(0).equals("pg_catalog");
        String name = own ? written.substring(written.indexOf('.') + 1).strip() : written;
        return name.equals("\"default\"") ? "" : name;
    }

    @Override
    public Optional<ColumnDefault> defaultValue(String sql, LogicalType type) {
        // a string is of the column's type there; 'now' and 'infinity' are none of its values, and what they stand for
        String of = type.name().isText()
                ? "text"
                : SIZE.matcher(PostgresTypes.sql(type).toLowerCase(Locale.ROOT)).replaceAll("");
        return PostgresDefaults.read(sql.startsWith("'") && sql.endsWith("'") ? sql + "::" + of : sql, type);
    }
}
