package org.orderlyferry.databases.postgresql;

import java.util.regex.Pattern;

/**
 * The sequences that columns count by: those that a column owns, as identities and {@code serial} do, and those of older and
 * hand-made tables, which no column owns, and one column's default alone takes its values from.
 */
final class ColumnCounters {

    /** Of a default {@code d}, the sequence of no column's that it alone gives the next value of; as an expression. */
    static final String OF_DEFAULT = "CASE WHEN pg_get_expr(d.adbin, d.adrelid) LIKE 'nextval(%::regclass)' THEN"
            + " (SELECT u.refobjid FROM pg_depend u JOIN pg_class q ON q.oid = u.refobjid AND q.relkind = 'S'"
            + " WHERE u.classid = 'pg_attrdef'::regclass AND u.objid = d.oid AND u.refclassid = 'pg_class'::regclass"
            + " AND NOT EXISTS (SELECT 1 FROM pg_depend x WHERE x.classid = 'pg_class'::regclass AND x.objid = u.refobjid"
            + " AND x.refclassid = 'pg_class'::regclass AND x.deptype IN ('a', 'i'))"
            + " AND NOT EXISTS (SELECT 1 FROM pg_depend y WHERE y.classid = 'pg_attrdef'::regclass AND"
            + " y.refclassid = 'pg_class'::regclass AND y.refobjid = u.refobjid AND y.objid <> u.objid) LIMIT 1) END";

    /** Those of all tables: a table, the number of its column, and the sequence, as {@code counters}; it takes its time. */
    static final String ALL =
            "(SELECT o.refobjid AS of_table, o.refobjsubid AS of_column, o.objid AS sequence FROM pg_depend o"
                    + " WHERE o.classid = 'pg_class'::regclass AND o.refclassid = 'pg_class'::regclass AND o.deptype IN ('a', 'i')"
                    + " UNION ALL SELECT d.adrelid, d.adnum, " + OF_DEFAULT + " FROM pg_attrdef d) counters";

    /** What is reckoned with the next value is no counter. */
    private static final Pattern NEXT = Pattern.compile("nextval\\('(?:[^']|'')++'::regclass\\)");

    private ColumnCounters() {}

    /** Whether a default gives the next value of a sequence, and nothing else. */
    static boolean isNext(String defaultSql) {
        return defaultSql != null && NEXT.matcher(defaultSql).matches();
    }

    /**
     * The sequence of a column, as an expression.
     *
     * @param table its name in quotes, as a string's literal
     * @param column as a string's literal
     */
    static String of(String table, String column) {
        return "COALESCE(pg_get_serial_sequence(" + table + ", " + column + ")::regclass, (SELECT (" + OF_DEFAULT
                + ")::regclass FROM pg_attrdef d JOIN pg_attribute a ON a.attrelid = d.adrelid AND a.attnum = d.adnum"
                + " WHERE d.adrelid = " + table + "::regclass AND a.attname = " + column + "))";
    }
}
