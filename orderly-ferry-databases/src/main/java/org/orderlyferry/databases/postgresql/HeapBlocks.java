package org.orderlyferry.databases.postgresql;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.UsageException;

/**
 * Cuts a table by its blocks. PostgreSQL keeps records in no order: where a key's values were drawn by lot, as UUIDs are, the
 * records of a range of them stand in as many blocks as there are records, and all slices together read the table once for
 * each of its records; by its blocks they read it once. Since version 14 the server goes straight to a range of them.
 */
final class HeapBlocks {

    /** Where a version of a record stands: its block, and its number in that. No table can have another column of the name. */
    static final ColumnDefinition COLUMN = ColumnDefinition.named("ctid", LogicalType.of(TypeName.VARCHAR))
            .sourceType("tid")
            .build();

    /** From here on, records that follow each other by a column mostly stand beside each other. */
    private static final String ORDERED = "0.5";

    /** As many as a key of numbers may give: what there is comes of an estimate. */
    private static final long MOST_SLICES = 10_000;

    private static final Pattern PLACE = Pattern.compile("\\([0-9]{1,10},[0-9]{1,5}\\)");

    private HeapBlocks() {}

    /** A place as it stands in a condition. The server itself would take much for one. */
    static String literal(String place) {
        if (!PLACE.matcher(place).matches()) {
            throw new UsageException("'" + place + "' isn't where a record stands in a table of PostgreSQL");
        }
        return DefinitionSql.string(place) + "::tid";
    }

    /**
     * Where to cut.
     *
     * @return the first place of each slice but the first; none where the key's order is the blocks', or the table has no blocks
     *     of its own
     */
    static List<String> cut(Session session, TableName table, Optional<ColumnDefinition> key, long slices)
            throws SQLException {
        if (slices > MOST_SLICES) {
            return List.of();
        }
        // row security's own conditions would stand before ours, and who may read only some columns may not read this
        // one
        Optional<String> found = session.value("SELECT pg_relation_size(c.oid)"
                + " / current_setting('block_size')::bigint FROM pg_class c JOIN pg_namespace n ON n.oid ="
                + " c.relnamespace WHERE c.oid = " + PostgresDialect.regclass(session.dialect(), table)
                + " AND c.relkind IN ('r', 'm') AND NOT c.relrowsecurity AND has_table_privilege(c.oid, 'SELECT')"
                + " AND (SELECT amname FROM pg_am WHERE oid = c.relam) = 'heap'"
                + " AND NOT EXISTS (SELECT 1 FROM pg_inherits WHERE inhparent = c.oid)"
                + " AND current_setting('server_version_num')::int >= 140000"
                + key.map(HeapBlocks::scattered).orElse(""));
        if (found.isEmpty()) {
            return List.of();
        }
        return boundaries(Long.parseLong(found.get()), slices);
    }

    /** The file that a table's blocks are in; the lock that reading takes keeps whoever would write another away. */
    static Optional<String> file(Session session, TableName table) throws SQLException {
        session.value("SELECT 1 FROM " + session.dialect().quote(table) + " WHERE false");
        return session.value("SELECT pg_relation_filenode(" + PostgresDialect.regclass(session.dialect(), table) + ")");
    }

    /** By the server's statistics. Without them, numbers are taken for a counter's. */
    private static String scattered(ColumnDefinition key) {
        String known =
                "EXISTS (SELECT 1 FROM pg_stats s WHERE s.schemaname = n.nspname AND s.tablename = c.relname AND NOT"
                        + " s.inherited AND s.attname = " + DefinitionSql.string(key.name())
                        + " AND abs(s.correlation) ";
        return key.type().name().isExactNumber()
                ? " AND " + known + "< " + ORDERED + ")"
                : " AND NOT " + known + ">= " + ORDERED + ")";
    }

    private static List<String> boundaries(long blocks, long slices) {
        List<String> boundaries = new ArrayList<>();
        long number = Math.min(slices, blocks);
        for (long i = 1; i < number; i++) {
            boundaries.add("(" + (blocks / number * i + Math.min(i, blocks % number)) + ",0)");
        }
        return boundaries;
    }
}
