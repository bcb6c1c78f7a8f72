package org.orderlyferry.databases.postgresql;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.TableName;

/**
 * What depends on tables that others take the places of, and what they have of their own, as statements that the server itself
 * writes: the same for the ones that come.
 */
final class Dependents {

    private final Session session;
    private final PostgresDialect dialect;
    private final String leaving;
    private final List<String> before = new ArrayList<>();
    private final List<String> after = new ArrayList<>();
    private final Set<String> views = new LinkedHashSet<>();

    /** For tables that leave at once; what they have to do with each other is nobody's concern. */
    Dependents(Session session, PostgresDialect dialect, List<TableName> leaving) {
        this.session = session;
        this.dialect = dialect;
        this.leaving = leaving.stream().map(this::regclass).collect(Collectors.joining(", "));
    }

    /** Statements while the tables that leave are in their places. */
    List<String> before() {
        return before;
    }

    /** Statements that have views be made of the tables that have come. */
    List<String> views() {
        return List.copyOf(views);
    }

    /** Statements when only the tables that have come are there. */
    List<String> after() {
        return after;
    }

    /** All that a table that comes gets from the one that leaves. */
    void of(Arrival arrival) throws SQLException {
        links(arrival.name());
        belongings(arrival);
        statistics(arrival.name());
        if (arrival.kept().isPresent()) {
            // what it refers to mustn't be kept from going by what nobody uses
            ask(
                    before,
                    "SELECT format('ALTER TABLE %s DROP CONSTRAINT %I', conrelid::regclass, conname) FROM pg_constraint"
                            + " WHERE contype = 'f' AND conparentid = 0 AND conrelid = " + regclass(arrival.name())
                            + " ORDER BY conname");
        }
        rights(arrival);
    }

    /** What a table that comes back gets from the one that leaves: it has kept what is its own. */
    void back(TableName table) throws SQLException {
        links(table);
        statistics(table);
    }

    private String regclass(TableName table) {
        return PostgresDialect.regclass(dialect, table);
    }

    private void ask(Collection<String> into, String sql) throws SQLException {
        session.query().each(sql, row -> into.add(row.getString(1)));
    }

    /** References of other tables, and views. */
    private void links(TableName table) throws SQLException {
        String old = regclass(table);
        String references = " FROM pg_constraint WHERE contype = 'f' AND confrelid = " + old + " AND conrelid NOT IN ("
                + leaving + ") AND conparentid = 0 ORDER BY oid";
        ask(before, "SELECT format('ALTER TABLE %s DROP CONSTRAINT %I', conrelid::regclass, conname)" + references);
        ask(
                after,
                "SELECT format('ALTER TABLE %s ADD CONSTRAINT %I %s', conrelid::regclass, conname,"
                        + " pg_get_constraintdef(oid))" + references);
        ask(
                views,
                "SELECT DISTINCT format('CREATE OR REPLACE VIEW %s%s AS %s', c.oid::regclass,"
                        + " ' WITH (' || array_to_string(c.reloptions, ', ') || ')', pg_get_viewdef(c.oid))"
                        + " FROM pg_depend d JOIN pg_rewrite r ON r.oid = d.objid JOIN pg_class c ON c.oid = r.ev_class"
                        + " WHERE d.classid = 'pg_rewrite'::regclass AND d.refobjid = " + old
                        + " AND c.relkind = 'v'");
    }

    private void belongings(Arrival arrival) throws SQLException {
        String old = regclass(arrival.name());
        ask(
                after,
                "SELECT pg_get_triggerdef(oid) FROM pg_trigger WHERE NOT tgisinternal AND tgrelid = " + old
                        + " ORDER BY tgname");
        ask(
                after,
                "SELECT format('ALTER TABLE %s %s TRIGGER %I', tgrelid::regclass, CASE tgenabled WHEN 'D' THEN 'DISABLE'"
                        + " WHEN 'R' THEN 'ENABLE REPLICA' ELSE 'ENABLE ALWAYS' END, tgname) FROM pg_trigger"
                        + " WHERE NOT tgisinternal AND tgenabled <> 'O' AND tgrelid = " + old);
    }

    /** They stand in a schema by their names, and don't go with a table into another one. */
    private void statistics(TableName table) throws SQLException {
        String of = " FROM pg_statistic_ext WHERE stxrelid = " + regclass(table) + " ORDER BY oid";
        ask(before, "SELECT format('DROP STATISTICS %s.%I', stxnamespace::regnamespace, stxname)" + of);
        ask(after, "SELECT pg_get_statisticsobjdef(oid)" + of);
    }

    private void rights(Arrival arrival) throws SQLException {
        String old = regclass(arrival.name());
        String table = DefinitionSql.string(dialect.quote(arrival.name()));
        ask(
                after,
                "SELECT format('ALTER TABLE %s OWNER TO %I', " + table
                        + ", pg_get_userbyid(relowner)) FROM pg_class WHERE oid = " + old
                        + " AND pg_get_userbyid(relowner) <> current_user");
        ask(
                after,
                "SELECT format('GRANT %s ON %s TO %s%s', a.privilege_type, " + table
                        + ", CASE WHEN a.grantee = 0 THEN 'PUBLIC' ELSE quote_ident(pg_get_userbyid(a.grantee)) END,"
                        + " CASE WHEN a.is_grantable THEN ' WITH GRANT OPTION' ELSE '' END)"
                        + " FROM pg_class c, aclexplode(c.relacl) a WHERE c.oid = " + old
                        + " AND a.grantee <> c.relowner ORDER BY 1");
        String comes = arrival.table().columns().stream()
                .map(c -> DefinitionSql.string(c.name()))
                .collect(Collectors.joining(", "));
        ask(
                after,
                "SELECT format('GRANT %s (%I) ON %s TO %s%s', a.privilege_type, t.attname, t.attrelid::regclass,"
                        + " CASE WHEN a.grantee = 0 THEN 'PUBLIC' ELSE quote_ident(pg_get_userbyid(a.grantee)) END,"
                        + " CASE WHEN a.is_grantable THEN ' WITH GRANT OPTION' ELSE '' END)"
                        + " FROM pg_attribute t, aclexplode(t.attacl) a WHERE t.attrelid = " + old
                        + " AND t.attname IN (" + (comes.isEmpty() ? "NULL" : comes) + ") ORDER BY 1");
    }
}
