package org.orderlyferry.databases.postgresql;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.RecordDigests;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;

/**
 * Digests of records by PostgreSQL's own hash of a row, which it has from version 14 on.
 *
 * <p>Its types' hashes are made for finding what is then compared, and take values for each other in ways that anybody can
 * foresee: numbers and times of 64 bits are folded into 32, decimal numbers have no sign, and a collation may take letters of either
 * case for one. So what a hash leaves out stands beside the value, as {@link #kind} says; a type of which that can't be told isn't hashed.
 * A row's hash is a sum of its values' hashes, so that values could be exchanged between rows without changing the sum
 * of all; therefore it is the seed of another hash.
 */
final class PostgresDigests implements RecordDigests {

    /** As many as a row can have that is made in a query. */
    private static final int MOST_IN_ROW = 1_600;

    private static final Pattern SIZE = Pattern.compile("\\([0-9,-]+\\)");

    /** A value of each kind: servers that say the same of them hash alike. */
    private static final String PROBE =
            "ROW(true, 7::smallint, -70000, 7000000000, 1.50::numeric, -12e300::numeric, 0.1::real,"
                    + " -0.1::double precision, 'Ærø'::text COLLATE \"C\", '2024-02-29'::date, date_part('epoch', '23:59:59.5'::time),"
                    + " '1999-12-31 23:59:59.999999'::timestamp, date_part('epoch', '1999-12-31 23:59:59.999999'::timestamp),"
                    + " '0044-03-15 12:00:00+00 BC'::timestamptz, date_part('epoch', '0044-03-15 12:00:00+00 BC'::timestamptz),"
                    + " '6f1d2c3b-0a49-4e58-8d67-000000000001'::uuid, '\\x00ff'::bytea, NULL::text)";

    private final PostgresDialect dialect;

    PostgresDigests(PostgresDialect dialect) {
        this.dialect = dialect;
    }

    @Override
    public Optional<String> form(Session session) throws SQLException {
        // a server may have it, and not let everybody use it
        boolean there = session.value("SELECT 1 FROM pg_proc"
                                + " WHERE oid = to_regprocedure('pg_catalog.hash_record_extended(record, bigint)')"
                                + " AND has_function_privilege(oid, 'EXECUTE')")
                        .isPresent()
                // bytes of another encoding may be those of another text, or none
                && session.value("SHOW server_encoding").equals(Optional.of("UTF8"));
        return there ? session.value("SELECT 'PostgreSQL ' || " + digest(PROBE, 1)) : Optional.empty();
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
        List<String> hashed = columns.stream().flatMap(c -> hashed(c).stream()).toList();
        return hashed.size() > MOST_IN_ROW
                ? Optional.empty()
                : Optional.of(digest("ROW(" + String.join(", ", hashed) + ")", seed));
    }

    @Override
    public ColumnDefinition column(String name) {
        return ColumnDefinition.named(name, LogicalType.of(TypeName.BIGINT))
                .nullable(false)
                .sourceType("bigint")
                .build();
    }

    /** Never by a seed of 0, which is the hash that a zero of floating point would have then, and null has always. */
    private static String digest(String row, long seed) {
        return "hashint4extended(0, hash_record_extended(" + row + ", '" + (seed | 1) + "'::bigint))";
    }

    /** A column's value, and what its hash doesn't tell of it. */
    private List<String> hashed(ColumnDefinition column) {
        String value = dialect.quote(column.name());
        return switch (SIZE.matcher(own(column)).replaceAll("")) {
            case "bigint" -> List.of(value, "(" + value + " >> 32)::integer");
            // what isn't a number has no digits, nor has what is beyond all
            case "numeric" -> List.of(value, value + " < 0", value + " = 'NaN'");
            case "time without time zone" -> List.of(seconds(value));
            case "timestamp without time zone", "timestamp with time zone" -> List.of(value, seconds(value));
            case "text", "character varying", "character", "json", "jsonb" -> List.of(value + "::text COLLATE \"C\"");
            default -> List.of(value);
        };
    }

    /** Exact but for the last digits of times that are centuries away, which the value's own hash has. */
    private static String seconds(String value) {
        return "date_part('epoch', " + value + ")";
    }
}
