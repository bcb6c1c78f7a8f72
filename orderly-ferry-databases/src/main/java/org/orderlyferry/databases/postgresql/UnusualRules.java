package org.orderlyferry.databases.postgresql;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.databases.dialect.NotCarried;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;

/**
 * Rules that hold for less than all records, or say more than a definition does. Columns of the catalogue that older
 * servers don't have are asked for by name.
 */
final class UnusualRules {

    /** A check or a reference that records may break all the same: at the target it would refuse them. */
    static final String HOLDS = " k.convalidated AND COALESCE(to_jsonb(k) ->> 'conenforced', 'true') = 'true' AND"
            + " NOT (k.contype = 'f' AND COALESCE(to_jsonb(k) ->> 'conperiod', 'false') = 'true') ";

    /** A column that was made NOT NULL for what comes, while it has nulls. */
    static final String NOT_NULL_HOLDS =
            " NOT EXISTS (SELECT 1 FROM pg_constraint nk WHERE nk.conrelid = a.attrelid AND"
                    + " nk.contype = 'n' AND NOT nk.convalidated AND nk.conkey = ARRAY[a.attnum]) ";

    private UnusualRules() {}

    static void tell(PostgresCatalogue catalogue, CatalogueQuery query, List<LeftBehind> all) throws SQLException {
        query.each(
                "SELECT n.nspname, c.relname, k.conname, k.contype::text, to_jsonb(k) ->> 'conperiod' = 'true',"
                        + " to_jsonb(k) ->> 'conenforced' = 'false', NOT k.convalidated, k.confmatchtype = 'f' AND"
                        + " cardinality(k.conkey) > 1, to_jsonb(k) ->> 'confdelsetcols' IS NOT NULL, k.contype IN ('p', 'u')"
                        + " AND k.condeferrable, to_jsonb(i) ->> 'indnullsnotdistinct' = 'true', i.indnatts > i.indnkeyatts"
                        + " FROM pg_constraint k JOIN pg_class c ON c.oid = k.conrelid JOIN pg_namespace n"
                        + " ON n.oid = c.relnamespace LEFT JOIN pg_index i ON i.indexrelid = k.conindid AND k.contype IN"
                        + " ('p', 'u') WHERE k.conparentid = 0 AND c.relkind IN ('r', 'p') AND NOT c.relispartition AND"
                        + " (k.contype IN ('p', 'u', 'f', 'c') OR k.contype = 'n' AND NOT k.convalidated) AND"
                        + PostgresCatalogue.NOT_SYSTEM + "ORDER BY 1, 2, 3",
                row -> {
                    TableName table = catalogue.name(row.getString(1), row.getString(2));
                    for (String reason : reasons(row)) {
                        all.add(LeftBehind.of(table, kind(row.getString(4)), row.getString(3), reason));
                    }
                });
        counters(catalogue, query, all);
    }

    private static String kind(String letter) {
        return switch (letter) {
            case "f" -> "reference";
            case "c" -> "check";
            case "n" -> "not null";
            default -> "key";
        };
    }

    private static List<String> reasons(ResultSet row) throws SQLException {
        boolean reference = row.getString(4).equals("f");
        if (row.getBoolean(5) && reference) {
            return List.of("it is about periods, which PostgreSQL alone has");
        }
        if (row.getBoolean(6)) {
            return List.of(NotCarried.UNENFORCED);
        }
        if (row.getBoolean(7)) {
            return List.of(NotCarried.UNCHECKED + "; VALIDATE CONSTRAINT lets it come along");
        }
        List<String> reasons = new ArrayList<>();
        if (row.getBoolean(5)) {
            reasons.add(NotCarried.OVERLAPS);
        }
        if (row.getBoolean(8)) {
            reasons.add(NotCarried.MATCH_FULL);
        }
        if (row.getBoolean(9)) {
            reasons.add(NotCarried.SETS_ALL);
        }
        if (row.getBoolean(10)) {
            reasons.add(NotCarried.TIMING);
        }
        if (row.getBoolean(11)) {
            reasons.add(NotCarried.NULLS);
        }
        if (row.getBoolean(12)) {
            reasons.add(NotCarried.INCLUDED);
        }
        return reasons;
    }

    /** What a counter can't go beyond, where that isn't its column's type. */
    private static void counters(PostgresCatalogue catalogue, CatalogueQuery query, List<LeftBehind> all)
            throws SQLException {
        query.each(
                "SELECT n.nspname, c.relname, a.attname, s.seqmin, s.seqmax, s.seqcycle FROM pg_sequence s JOIN "
                        + ColumnCounters.ALL + " ON counters.sequence = s.seqrelid JOIN pg_class c ON c.oid ="
                        + " counters.of_table JOIN pg_namespace n ON n.oid = c.relnamespace JOIN pg_attribute a"
                        + " ON a.attrelid = c.oid AND a.attnum = counters.of_column WHERE (s.seqcycle OR CASE WHEN s.seqincrement > 0 THEN s.seqmax <> CASE"
                        + " s.seqtypid WHEN 21 THEN 32767 WHEN 23 THEN 2147483647 ELSE 9223372036854775807 END ELSE s.seqmin"
                        + " <> CASE s.seqtypid WHEN 21 THEN -32768 WHEN 23 THEN -2147483648 ELSE -9223372036854775808 END"
                        + " END) AND" + PostgresCatalogue.NOT_SYSTEM + "ORDER BY 1, 2, 3",
                row -> all.add(LeftBehind.of(
                        catalogue.name(row.getString(1), row.getString(2)),
                        "counter",
                        row.getString(3),
                        "it comes without its bounds, from " + row.getLong(4) + " to " + row.getLong(5)
                                + (row.getBoolean(6) ? ", and without beginning again there" : ""))));
    }
}
