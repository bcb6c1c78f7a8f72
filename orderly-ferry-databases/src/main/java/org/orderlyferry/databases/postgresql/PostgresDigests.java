package org.orderlyferry.databases.postgresql;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.RecordDigests;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/**
 * Digests of records by PostgreSQL's own hashes of values, all of which it has from version 14 on.
 *
 * <p>A record's digest is the sum, without carries, of a hash for each value, {@link HashedValue}, of which each column has a seed of its own.
 * Of such sums values could be exchanged between records without changing the sum of all; therefore it is the seed of another hash.
 */
final class PostgresDigests implements RecordDigests {

    /** As many as a table can have. */
    private static final int MOST = 1_600;

    private static final Pattern SIZE = Pattern.compile("\\([0-9,-]+\\)");

    /** A value of each kind, with its type: servers that say the same of them hash alike. */
    private static final List<Map.Entry<String, String>> PROBES = List.of(
            Map.entry("boolean", "true"),
            Map.entry("smallint", "7"),
            Map.entry("integer", "-70000"),
            Map.entry("bigint", "7000000000"),
            Map.entry("numeric(9,2)", "1.50"),
            Map.entry("numeric", "-12e300"),
            Map.entry("real", "0.1"),
            Map.entry("double precision", "-0.1"),
            Map.entry("text", "\u00c6r\u00f8"),
            Map.entry("date", "2024-02-29"),
            Map.entry("date", "-infinity"),
            Map.entry("time without time zone", "23:59:59.5"),
            Map.entry("timestamp without time zone", "1999-12-31 23:59:59.999999"),
            Map.entry("timestamp without time zone", "4714-11-24 00:00:00 BC"),
            Map.entry("timestamp with time zone", "0044-03-15 12:00:00+00 BC"),
            Map.entry("uuid", "6f1d2c3b-0a49-4e58-8d67-000000000001"),
            Map.entry("bytea", "\\x00ff"));

    private final PostgresDialect dialect;

    PostgresDigests(PostgresDialect dialect) {
        this.dialect = dialect;
    }

    @Override
    public Optional<String> form(Session session) throws SQLException {
        String signatures = HashedValue.FUNCTIONS.stream()
                .map(f -> "('pg_catalog." + f + "')")
                .collect(Collectors.joining(", "));
        // a server may have them, and not let everybody use them
        boolean there = session.value(
                                "SELECT 1 WHERE NOT EXISTS (SELECT 1 FROM (VALUES " + signatures
                                        + ") f(f) WHERE has_function_privilege(to_regprocedure(f::text)::oid, 'EXECUTE') IS NOT TRUE)")
                        .isPresent()
                // bytes of another encoding may be those of another text, or none
                && session.value("SHOW server_encoding").equals(Optional.of("UTF8"));
        return there ? session.value("SELECT 'PostgreSQL ' || " + probe()) : Optional.empty();
    }

    private String probe() {
        List<ColumnDefinition> columns = new ArrayList<>();
        List<String> values = new ArrayList<>();
        for (Map.Entry<String, String> probe : PROBES) {
            String name = "p" + columns.size();
            columns.add(ColumnDefinition.named(name, LogicalType.of(TypeName.VARCHAR))
                    .sourceType(probe.getKey())
                    .build());
            values.add("'" + probe.getValue() + "'::" + probe.getKey() + " AS " + dialect.quote(name));
        }
        return of(columns, 1).orElseThrow() + " FROM (SELECT " + String.join(", ", values) + ") p";
    }

    @Override
    public Optional<String> kind(ColumnDefinition column) {
        String own = own(column);
        String type = SIZE.matcher(own).replaceAll("");
        return switch (type) {
            case "boolean", "bigint", "real", "double precision", "date", "uuid", "bytea", "json", "jsonb" ->
                Optional.of(type);
            case "numeric", "time without time zone", "timestamp without time zone", "timestamp with time zone" ->
                Optional.of(type);
            case "smallint", "integer" -> Optional.of("integer");
            case "text", "character varying" -> Optional.of("text");
            // blanks at its end are as many as its length says
            case "character" -> Optional.of(own);
            default -> Optional.empty();
        };
    }

    private static String own(ColumnDefinition column) {
        return column.enumeration().isPresent() ? "text" : column.sourceType();
    }

    @Override
    public Optional<String> of(List<ColumnDefinition> columns, long seed) {
        if (columns.size() > MOST) {
            return Optional.empty();
        }
        List<String> hashes = new ArrayList<>();
        for (int i = 0; i < columns.size(); i++) {
            String own = own(columns.get(i));
            HashedValue value = new HashedValue(dialect.quote(columns.get(i).name()), seed, i);
            hashes.add(
                    value.of(SIZE.matcher(own).replaceAll(""), SIZE.matcher(own).find()));
        }
        return Optional.of("hashint4extended(0, " + sum(hashes) + ")");
    }

    /** Halves of halves, since servers go as deep as brackets do. */
    private static String sum(List<String> hashes) {
        int half = hashes.size() / 2;
        return half == 0
                ? hashes.get(0)
                : "(" + sum(hashes.subList(0, half)) + " # " + sum(hashes.subList(half, hashes.size())) + ")";
    }

    @Override
    public ColumnDefinition column(String name) {
        return ColumnDefinition.named(name, LogicalType.of(TypeName.BIGINT))
                .nullable(false)
                .sourceType("bigint")
                .build();
    }
}
