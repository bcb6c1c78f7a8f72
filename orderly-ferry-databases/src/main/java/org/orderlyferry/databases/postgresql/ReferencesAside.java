package org.orderlyferry.databases.postgresql;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;

/** References that PostgreSQL's catalogue has, as statements that the server itself writes. */
final class ReferencesAside {

    private ReferencesAside() {}

    /**
     * How some are taken away and made again, as they are now.
     *
     * @param which a condition for {@code c}, of {@code pg_constraint}; those that partitions have a share in go with their table's
     */
    static List<Settling.SetAside> where(Session session, String which) throws SQLException {
        List<Settling.SetAside> all = new ArrayList<>();
        session.query()
                .each(
                        "SELECT format('ALTER TABLE %s DROP CONSTRAINT %I', c.conrelid::regclass, c.conname),"
                                + " format('ALTER TABLE %s ADD CONSTRAINT %I %s', c.conrelid::regclass, c.conname,"
                                + " pg_get_constraintdef(c.oid)), format('COMMENT ON CONSTRAINT %I ON %s IS %L', c.conname,"
                                + " c.conrelid::regclass, obj_description(c.oid, 'pg_constraint')),"
                                + " obj_description(c.oid, 'pg_constraint') IS NULL FROM pg_constraint c"
                                + " WHERE c.contype = 'f' AND c.conparentid = 0 AND " + which
                                + " ORDER BY c.conrelid::regclass::text, c.conname",
                        row -> all.add(new Settling.SetAside(
                                row.getString(1),
                                row.getBoolean(4)
                                        ? List.of(row.getString(2))
                                        : List.of(row.getString(2), row.getString(3)))));
        return all;
    }
}
