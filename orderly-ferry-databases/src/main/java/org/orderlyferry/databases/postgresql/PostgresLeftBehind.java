package org.orderlyferry.databases.postgresql;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.databases.dialect.NotCarried;
import org.orderlyferry.databases.dialect.ReservedNames;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;

/** What PostgreSQL has beside its tables, and of them, that is carried nowhere. */
final class PostgresLeftBehind {

    private final PostgresCatalogue catalogue;
    private final CatalogueQuery query;

    PostgresLeftBehind(PostgresCatalogue catalogue, CatalogueQuery query) {
        this.catalogue = catalogue;
        this.query = query;
    }

    List<LeftBehind> all() throws SQLException {
        List<LeftBehind> all = new ArrayList<>();
        String own = "its SQL is PostgreSQL's own; make it anew at the target";
        query.each(
                "SELECT CASE c.relkind WHEN 'v' THEN 'view' WHEN 'm' THEN 'materialized view' ELSE 'foreign table' END,"
                        + " n.nspname, c.relname FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace"
                        + " WHERE c.relkind IN ('v', 'm', 'f') AND NOT EXISTS (SELECT 1 FROM pg_depend d"
                        + " WHERE d.objid = c.oid AND d.deptype = 'e') AND" + PostgresCatalogue.NOT_SYSTEM
                        + "ORDER BY 1, 2, 3",
                row -> all.add(new LeftBehind(
                        row.getString(1),
                        catalogue.name(row.getString(2), row.getString(3)).toString(),
                        own)));
        query.each(
                "SELECT n.nspname, count(c.oid) FROM pg_namespace n LEFT JOIN pg_class c ON c.relnamespace = n.oid AND"
                        + " c.relkind = 'r' AND c.relname <> '" + ReservedNames.LEDGER.name() + "' WHERE NOT"
                        + PostgresCatalogue.NOT_KEPT + "GROUP BY n.nspname ORDER BY 1",
                row -> all.add(new LeftBehind(
                        "kept tables",
                        row.getString(1),
                        row.getLong(2)
                                + " that a run has replaced: ferry undo brings them back, or with --give-up takes"
                                + " them away")));
        query.each(
                "SELECT n.nspname, c.relname, t.tgname FROM pg_trigger t JOIN pg_class c ON c.oid = t.tgrelid"
                        + " JOIN pg_namespace n ON n.oid = c.relnamespace WHERE NOT t.tgisinternal AND"
                        + PostgresCatalogue.NOT_SYSTEM
                        + "ORDER BY 1, 2, 3",
                row -> all.add(LeftBehind.of(table(row, 1), "trigger", row.getString(3), own)));
        query.each(
                "SELECT p.proname FROM pg_proc p JOIN pg_namespace n ON n.oid = p.pronamespace WHERE"
                        + PostgresCatalogue.NOT_SYSTEM
                        + "AND NOT EXISTS (SELECT 1 FROM pg_depend d WHERE d.objid = p.oid AND d.deptype = 'e')"
                        + " ORDER BY 1",
                row -> all.add(new LeftBehind("routine", row.getString(1), own)));
        query.each(
                "SELECT 'policy', n.nspname, c.relname, p.polname FROM pg_policy p JOIN pg_class c ON c.oid = p.polrelid"
                        + " JOIN pg_namespace n ON n.oid = c.relnamespace WHERE" + PostgresCatalogue.NOT_SYSTEM
                        + "UNION ALL SELECT 'rule', n.nspname, c.relname, r.rulename FROM pg_rewrite r JOIN pg_class c"
                        + " ON c.oid = r.ev_class JOIN pg_namespace n ON n.oid = c.relnamespace"
                        + " WHERE r.rulename <> '_RETURN' AND" + PostgresCatalogue.NOT_SYSTEM
                        + "UNION ALL SELECT 'exclusion constraint', n.nspname, c.relname, k.conname FROM pg_constraint k"
                        + " JOIN pg_class c ON c.oid = k.conrelid JOIN pg_namespace n ON n.oid = c.relnamespace"
                        + " WHERE k.contype = 'x' AND" + PostgresCatalogue.NOT_SYSTEM + "ORDER BY 1, 2, 3, 4",
                row -> all.add(LeftBehind.of(table(row, 2), row.getString(1), row.getString(4), own)));
        query.each(
                "SELECT n.nspname, c.relname FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace"
                        + " WHERE c.relkind = 'p' AND NOT c.relispartition AND" + PostgresCatalogue.NOT_SYSTEM
                        + "ORDER BY 1, 2",
                row -> all.add(LeftBehind.of(table(row, 1), "partitioning", NotCarried.PARTITIONS)));
        query.each(
                "SELECT n.nspname, c.relname FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace"
                        + " WHERE c.relkind IN ('r', 'p') AND NOT" + PostgresCatalogue.HAS_COLUMNS + " AND"
                        + PostgresCatalogue.NOT_SYSTEM
                        + "ORDER BY 1, 2",
                row -> all.add(new LeftBehind(
                        "table",
                        catalogue.name(row.getString(1), row.getString(2)).toString(),
                        "it has no columns, and so nothing that could be carried")));
        query.each(
                "SELECT n.nspname, c.relname, o.nspname, p.relname FROM pg_inherits i JOIN pg_class c ON c.oid = i.inhrelid"
                        + " JOIN pg_class p ON p.oid = i.inhparent JOIN pg_namespace o ON o.oid = p.relnamespace"
                        + " JOIN pg_namespace n ON n.oid = c.relnamespace WHERE c.relkind = 'r' AND p.relkind = 'r' AND"
                        + PostgresCatalogue.NOT_SYSTEM + "ORDER BY 1, 2, 3, 4",
                row -> {
                    TableName parent = catalogue.name(row.getString(3), row.getString(4));
                    all.add(LeftBehind.of(
                            table(row, 1),
                            "inheritance",
                            "its records are those of " + parent + " as well, and are carried with both"));
                });
        query.each(
                "SELECT n.nspname, c.relname, s.seqstart, s.seqincrement FROM pg_class c JOIN pg_namespace n"
                        + " ON n.oid = c.relnamespace JOIN pg_sequence s ON s.seqrelid = c.oid"
                        + " WHERE NOT EXISTS (SELECT 1 FROM pg_depend d WHERE d.objid = c.oid"
                        + " AND d.classid = 'pg_class'::regclass AND d.deptype = 'e') AND NOT EXISTS (SELECT 1 FROM "
                        + ColumnCounters.ALL + " WHERE counters.sequence = c.oid) AND"
                        + PostgresCatalogue.NOT_SYSTEM
                        + "ORDER BY 1, 2",
                row -> {
                    TableName sequence = catalogue.name(row.getString(1), row.getString(2));
                    String quoted = "\"" + row.getString(1).replace("\"", "\"\"") + "\".\""
                            + row.getString(2).replace("\"", "\"\"") + "\"";
                    all.add(new LeftBehind(
                            "sequence",
                            sequence.toString(),
                            "it belongs to no column; its next value is "
                                    + PostgresDefinitions.next(query, quoted, row.getLong(3), row.getLong(4))));
                });
        UnusualRules.tell(catalogue, query, all);
        largeObjects(all);
        query.each(
                "SELECT DISTINCT n.nspname, c.relname, CASE WHEN a.grantee = 0 THEN 'PUBLIC' ELSE pg_get_userbyid(a.grantee) END,"
                        + " a.privilege_type FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace,"
                        + " aclexplode(c.relacl) a WHERE c.relkind IN ('r', 'p') AND a.grantee <> c.relowner AND"
                        + PostgresCatalogue.NOT_SYSTEM + "ORDER BY 1, 2, 3, 4",
                row -> all.add(LeftBehind.of(
                        table(row, 1),
                        "grant",
                        row.getString(4) + " to " + row.getString(3) + "; users are the target's own matter")));
        query.each(
                "SELECT n.nspname, c.relname, a.attname, format_type(a.atttypid, a.atttypmod), t.typtype::text"
                        + " FROM pg_attribute a JOIN pg_class c ON c.oid = a.attrelid JOIN pg_namespace n"
                        + " ON n.oid = c.relnamespace JOIN pg_type t ON t.oid = a.atttypid"
                        + " WHERE c.relkind IN ('r', 'p') AND a.attnum > 0 AND NOT a.attisdropped AND"
                        + PostgresCatalogue.NOT_SYSTEM
                        + "ORDER BY 1, 2, 3",
                row -> {
                    String type = row.getString(4);
                    if (row.getString(5).equals("d")) {
                        all.add(LeftBehind.of(
                                table(row, 1),
                                "domain",
                                row.getString(3),
                                "the column arrives as the type that " + type + " is made of, with its checks"));
                    } else if (!row.getString(5).equals("e")
                            && PostgresTypes.isCarriedAsText(type)
                            && !type.equals("text")) {
                        all.add(LeftBehind.of(
                                table(row, 1), "type", row.getString(3), "values of " + type + " are carried as text"));
                    }
                });
        return all;
    }

    private TableName table(ResultSet row, int schema) throws SQLException {
        return catalogue.name(row.getString(schema), row.getString(schema + 1));
    }

    /** Values that stand outside of the tables that have their numbers. */
    private void largeObjects(List<LeftBehind> all) throws SQLException {
        long[] there = {0};
        query.each("SELECT count(*) FROM pg_largeobject_metadata", row -> there[0] = row.getLong(1));
        if (there[0] == 0) {
            return;
        }
        all.add(new LeftBehind("large objects", "(all)", "the contents of " + there[0] + " stay where they are"));
        query.each(
                "SELECT n.nspname, c.relname, a.attname FROM pg_attribute a JOIN pg_class c ON c.oid = a.attrelid"
                        + " JOIN pg_namespace n ON n.oid = c.relnamespace JOIN pg_type t ON t.oid = a.atttypid"
                        + " WHERE c.relkind IN ('r', 'p') AND NOT c.relispartition AND a.attnum > 0 AND NOT a.attisdropped"
                        + " AND t.typname IN ('oid', 'lo') AND" + PostgresCatalogue.NOT_SYSTEM
                        + "ORDER BY 1, 2, a.attnum",
                row -> all.add(LeftBehind.of(
                        table(row, 1),
                        "large objects",
                        row.getString(3),
                        "the column may hold their numbers, which are carried, and by which nothing is found elsewhere; a query"
                                + " with lo_get gives what they hold")));
    }
}
