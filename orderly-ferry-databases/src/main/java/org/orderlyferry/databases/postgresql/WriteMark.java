package org.orderlyferry.databases.postgresql;

import java.sql.SQLException;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.TableName;

/**
 * A point in a server's sequence of transactions, by which it can be told whether a table was written since: each version of a record
 * knows the transaction that made it. If none is of a later one and there are as many as there were, they are the same. It is about
 * one table of one server, and of one history of it: what was restored is another.
 *
 * @param table which table of which server: the server's own identifier, its history, the database and the table
 * @param transaction the first one that the point doesn't see, or that wasn't over then
 * @param file the file in which the table's records stand, which is another once all were put elsewhere; empty where that doesn't
 *     count
 */
record WriteMark(String table, long transaction, String file) {

    private static final Pattern TEXT =
            Pattern.compile("(\\d{1,20}/\\d{1,10}/\\d{1,10}/\\d{1,10})/(\\d{1,18})(?:/(\\d{1,10}))?");

    /** Numbers of transactions that stand in records are the last 32 bits of them. */
    private static final long BITS = 1L << 32;

    /** So many transactions later nobody can tell the first from the last any more; with a margin. */
    private static final long FAR = 1L << 30;

    /** What a session sees; nothing where the table's records may be another's, or the server doesn't tell. */
    static Optional<WriteMark> of(Session session, TableName table, boolean standing) throws SQLException {
        Optional<String> which = which(session, table);
        String file = standing ? HeapBlocks.file(session, table).orElse("") : "";
        return which.isEmpty()
                ? Optional.empty()
                : session.value("SELECT txid_snapshot_xmin(txid_current_snapshot())")
                        .map(t -> new WriteMark(which.get(), Long.parseLong(t), file));
    }

    static Optional<WriteMark> parse(String text) {
        Matcher matcher = TEXT.matcher(text);
        return matcher.matches()
                ? Optional.of(new WriteMark(
                        matcher.group(1),
                        Long.parseLong(matcher.group(2)),
                        Objects.requireNonNullElse(matcher.group(3), "")))
                : Optional.empty();
    }

    String text() {
        return table + "/" + transaction + (file.isEmpty() ? "" : "/" + file);
    }

    /** A plain table without children, whose identity the server tells. */
    private static Optional<String> which(Session session, TableName table) throws SQLException {
        return session.value("SELECT format('%s/%s/%s/%s', (SELECT system_identifier FROM pg_control_system()),"
                + " (SELECT timeline_id FROM pg_control_checkpoint()), (SELECT oid FROM pg_database WHERE datname ="
                + " current_database()), c.oid) FROM pg_class c WHERE c.oid = "
                + regclass(session, table) + " AND c.relkind = 'r' AND NOT c.relrowsecurity AND"
                + " NOT EXISTS (SELECT 1 FROM pg_inherits WHERE inhparent = c.oid)"
                + " AND has_function_privilege('pg_control_system()', 'EXECUTE')"
                + " AND has_function_privilege('pg_control_checkpoint()', 'EXECUTE')");
    }

    private static String regclass(Session session, TableName table) {
        return PostgresDialect.regclass(session.dialect(), table);
    }

    /** How many records there are, if all of them are older than the mark; and so the columns, and all enumerations' values. */
    OptionalLong unwritten(Session session, TableName name) throws SQLException {
        if (!which(session, name).equals(Optional.of(table))
                || !file.isEmpty() && !HeapBlocks.file(session, name).equals(Optional.of(file))) {
            return OptionalLong.empty();
        }
        Optional<String> now = session.value("SELECT txid_snapshot_xmax(txid_current_snapshot())");
        long passed = Long.parseLong(now.orElseThrow()) - transaction;
        if (passed < 0 || passed > FAR) {
            return OptionalLong.empty();
        }
        String later =
                "((xmin::text::bigint - " + transaction % BITS + " + " + BITS + ") % " + BITS + " < " + BITS / 2 + ")";
        Optional<String> rows = session.value("SELECT count(*) FROM "
                + session.dialect().quote(name)
                + " HAVING count(*) FILTER (WHERE " + later + ") = 0 AND NOT EXISTS (SELECT 1 FROM pg_attribute WHERE"
                + " attrelid = " + regclass(session, name) + " AND attnum > 0 AND " + later
                + ") AND NOT EXISTS (SELECT 1 FROM pg_enum WHERE " + later + ")");
        return rows.isEmpty() ? OptionalLong.empty() : OptionalLong.of(Long.parseLong(rows.get()));
    }
}
