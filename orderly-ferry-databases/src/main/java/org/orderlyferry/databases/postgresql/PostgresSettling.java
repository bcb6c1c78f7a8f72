package org.orderlyferry.databases.postgresql;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.Deed;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Deferrability;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;

/**
 * How tables take their places in PostgreSQL: all in one transaction. What depends on a table that is replaced (views,
 * references of other tables, triggers, grants) is made to depend on the new one.
 */
final class PostgresSettling implements Settling {

    private final PostgresDialect dialect;

    PostgresSettling(PostgresDialect dialect) {
        this.dialect = dialect;
    }

    private String regclass(TableName table) {
        return PostgresDialect.regclass(dialect, table);
    }

    private static List<String> list(Session session, String sql) throws SQLException {
        List<String> values = new ArrayList<>();
        session.query().each(sql, row -> values.add(row.getString(1)));
        return values;
    }

    @Override
    public List<String> obstacles(Session session, TableDefinition there, TableDefinition comes) throws SQLException {
        String table = regclass(there.name());
        String found = "SELECT 'the materialized view ' || c.relname || ' is made of it' FROM pg_depend d"
                + " JOIN pg_rewrite r ON r.oid = d.objid JOIN pg_class c ON c.oid = r.ev_class"
                + " WHERE d.refobjid = " + table + " AND c.relkind = 'm'"
                + " UNION SELECT 'it has the policy ' || polname FROM pg_policy WHERE polrelid = " + table
                + " UNION SELECT 'it has the rule ' || rulename FROM pg_rewrite WHERE ev_class = " + table
                + " UNION SELECT 'it is in the publication ' || p.pubname FROM pg_publication_rel r JOIN pg_publication p"
                + " ON p.oid = r.prpubid WHERE r.prrelid = " + table
                + " UNION SELECT 'others inherit from it' FROM pg_inherits WHERE NOT EXISTS (SELECT 1 FROM"
                + " pg_partitioned_table WHERE partrelid = inhparent) AND inhparent = " + table
                + " UNION SELECT 'it inherits from ' || inhparent::regclass::text FROM pg_inherits WHERE NOT EXISTS"
                + " (SELECT 1 FROM pg_partitioned_table WHERE partrelid = inhparent) AND inhrelid = " + table
                + " UNION SELECT 'it is a partition of ' || inhparent::regclass::text FROM pg_inherits JOIN"
                + " pg_partitioned_table ON partrelid = inhparent WHERE inhrelid = " + table
                + " UNION SELECT 'it is partitioned' FROM pg_partitioned_table WHERE partrelid = " + table;
        return list(session, found).stream()
                .map(f -> "table " + there.name() + " can't be replaced: " + f)
                .toList();
    }

    @Override
    public Optional<String> tooManyAtOnce(Session session, List<Arrival> arrivals) throws SQLException {
        return LocksAtOnce.tooMany(session, arrivals);
    }

    @Override
    public TableDefinition whileLoaded(Arrival arrival) {
        TableDefinition table = arrival.table();
        String head = arrival.loaded().name() + "_";
        List<IndexDefinition> indexes = new ArrayList<>();
        for (IndexDefinition index : table.indexes()) {
            indexes.add(new IndexDefinition(
                    head + "i" + indexes.size(), index.unique(), index.parts(), index.predicate(), index.own()));
        }
        List<Key> unique = new ArrayList<>();
        for (Key key : table.uniqueKeys()) {
            unique.add(new Key(head + "u" + unique.size(), key.columns()));
        }
        return table.toBuilder()
                .name(arrival.loaded())
                .primaryKey(table.primaryKey()
                        .map(k -> new Key(head + "p", k.columns()))
                        .orElse(null))
                .uniqueKeys(unique)
                .indexes(indexes)
                .build();
    }

    @Override
    public List<Step> takePlaces(Session session, List<Arrival> arrivals) throws SQLException {
        List<Arrival> replacing =
                arrivals.stream().filter(a -> a.there().isPresent()).toList();
        List<TableName> kept =
                replacing.stream().flatMap(a -> a.kept().stream()).toList();
        Dependents dependents = new Dependents(
                session, dialect, replacing.stream().map(Arrival::name).toList());
        for (Arrival arrival : replacing) {
            dependents.of(arrival);
        }
        List<String> steps = new ArrayList<>(dependents.before());
        for (Arrival arrival : replacing) {
            steps.add(arrival.kept()
                    .map(k -> KeptSchemas.move(dialect, arrival.name(), k.schema()))
                    .orElseGet(() -> rename(arrival.name(), arrival.aside().name())));
        }
        for (Arrival arrival : arrivals) {
            steps.add(rename(arrival.loaded(), arrival.name().name()));
        }
        steps.addAll(dependents.views());
        if (!kept.isEmpty()) {
            steps.addAll(KeptSchemas.mayGo(dialect, kept));
        } else if (!replacing.isEmpty()) {
            steps.add("DROP TABLE "
                    + replacing.stream().map(a -> dialect.quote(a.aside())).collect(Collectors.joining(", ")));
        }
        Set<String> taken = takenNames(session, replacing);
        arrivals.forEach(a -> taken.add(a.name().name()));
        for (Arrival arrival : arrivals) {
            steps.addAll(names(session, arrival, taken));
        }
        steps.addAll(dependents.after());
        return steps.stream().map(Step::of).toList();
    }

    private String rename(TableName table, String name) {
        return "ALTER TABLE " + dialect.quote(table) + " RENAME TO " + dialect.quote(name);
    }

    /** Names of relations that are there when the old tables have gone. */
    private Set<String> takenNames(Session session, List<Arrival> replacing) throws SQLException {
        String gone = replacing.isEmpty()
                ? ""
                : " WHERE NOT EXISTS (SELECT 1 FROM pg_index i WHERE i.indexrelid = c.oid AND i.indrelid IN ("
                        + replacing.stream().map(a -> regclass(a.name())).collect(Collectors.joining(", "))
                        + ")) AND NOT EXISTS (SELECT 1 FROM pg_depend d WHERE d.objid = c.oid AND d.deptype IN ('a', 'i')"
                        + " AND d.refobjid IN ("
                        + replacing.stream().map(a -> regclass(a.name())).collect(Collectors.joining(", ")) + "))";
        return new HashSet<>(list(
                session,
                "SELECT c.relname FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace AND"
                        + PostgresCatalogue.NOT_KEPT + gone));
    }

    private static String free(String wanted, Set<String> taken) {
        return free(wanted, "", taken);
    }

    /** A name that nothing has yet, made of a head, which may be cut, and an ending. */
    private static String free(String head, String ending, Set<String> taken) {
        String name = PostgresDialect.cut(head, ending.length()) + ending;
        for (int number = 1; !taken.add(name); number++) {
            String numbered = ending + number;
            name = PostgresDialect.cut(head, numbered.length()) + numbered;
        }
        return name;
    }

    /** Gives keys, indexes and counters the names that they have at the source, or that PostgreSQL would give. */
    private List<String> names(Session session, Arrival arrival, Set<String> taken) throws SQLException {
        List<String> steps = new ArrayList<>();
        TableDefinition wanted = arrival.table();
        TableDefinition loaded = whileLoaded(arrival);
        String table = dialect.quote(arrival.name());
        String bare = arrival.name().name();
        wanted.primaryKey()
                .ifPresent(key -> steps.add(constraint(
                        table,
                        loaded.primaryKey().orElseThrow().name(),
                        key.name().isEmpty() ? free(bare, "_pkey", taken) : free(key.name(), taken))));
        for (int i = 0; i < wanted.uniqueKeys().size(); i++) {
            Key key = wanted.uniqueKeys().get(i);
            String name = key.name().isEmpty()
                    ? free(bare + "_" + String.join("_", key.columns()), "_key", taken)
                    : free(key.name(), taken);
            steps.add(constraint(table, loaded.uniqueKeys().get(i).name(), name));
        }
        for (int i = 0; i < wanted.indexes().size(); i++) {
            String from = dialect.quote(new TableName(
                    arrival.loaded().schema(), loaded.indexes().get(i).name()));
            steps.add("ALTER INDEX " + from + " RENAME TO "
                    + dialect.quote(free(wanted.indexes().get(i).name(), taken)));
        }
        Set<String> own = new HashSet<>();
        wanted.checks().stream().map(CheckConstraint::name).forEach(own::add);
        String prefix = arrival.loaded().name() + "_";
        session.query()
                .each(
                        "SELECT conname FROM pg_constraint WHERE contype IN ('n', 'c') AND conrelid = "
                                + regclass(arrival.loaded()) + " AND conname LIKE '" + prefix.replace("_", "\\_")
                                + "%' ORDER BY 1",
                        row -> steps.add(constraint(
                                table,
                                row.getString(1),
                                free(bare + "_" + row.getString(1).substring(prefix.length()), own))));
        for (ColumnDefinition column : wanted.columns()) {
            if (column.identity().isPresent()) {
                String sequence = session.value("SELECT pg_get_serial_sequence("
                                + DefinitionSql.string(dialect.quote(arrival.loaded())) + ", "
                                + DefinitionSql.string(column.name()) + ")")
                        .orElseThrow();
                steps.add("ALTER SEQUENCE " + sequence + " RENAME TO "
                        + dialect.quote(free(bare + "_" + column.name(), "_seq", taken)));
            }
        }
        return steps;
    }

    private String constraint(String table, String from, String to) {
        return "ALTER TABLE " + table + " RENAME CONSTRAINT " + dialect.quote(from) + " TO " + dialect.quote(to);
    }

    @Override
    public boolean keepsReplaced() {
        return true;
    }

    @Override
    public Optional<String> whyNotKept(Session session, List<TableName> tables) throws SQLException {
        return KeptSchemas.whyNot(session, tables);
    }

    @Override
    public List<String> bringBack(Session session, List<Arrival> back, List<TableName> going) throws SQLException {
        return KeptSchemas.bringBack(session, dialect, back, going);
    }

    /** References that are checked at once would have to hold after each table; so they wait for the last one. */
    @Override
    public List<Step> loosen(Session session, List<Arrival> arrivals) throws SQLException {
        List<Step> steps = new ArrayList<>();
        for (Arrival arrival : arrivals) {
            list(session, alterReferences(arrival, "DEFERRABLE INITIALLY DEFERRED"))
                    .forEach(sql -> steps.add(Step.of(sql)));
        }
        return steps;
    }

    /** Without an index, the whole table that refers to records is read for each of them that goes. */
    @Override
    public List<SetAside> setAside(Session session, List<Arrival> arrivals, Set<TableName> going) throws SQLException {
        List<SetAside> all = new ArrayList<>();
        for (Arrival arrival : arrivals) {
            for (TableName table : going) {
                all.addAll(ReferencesAside.where(
                        session,
                        "c.convalidated AND c.confdeltype IN ('a', 'r') AND c.conrelid = " + regclass(arrival.name())
                                + " AND c.confrelid = " + regclass(table)
                                + " AND NOT EXISTS (SELECT 1 FROM pg_index i WHERE i.indrelid = c.conrelid"
                                + " AND i.indisvalid AND i.indpred IS NULL"
                                + " AND (i.indkey::int2[])[0:cardinality(c.conkey) - 1] @> c.conkey)"));
            }
        }
        return all;
    }

    @Override
    public Optional<List<SetAside>> setAside(Session session, Set<TableName> to) throws SQLException {
        String tables = to.stream().map(this::regclass).collect(Collectors.joining(", "));
        return Optional.of(ReferencesAside.where(session, "c.confrelid IN (" + tables + ")"));
    }

    @Override
    public List<String> waited() {
        return List.of("SET CONSTRAINTS ALL IMMEDIATE");
    }

    @Override
    public List<String> tighten(Session session, List<Arrival> arrivals) throws SQLException {
        List<String> statements = new ArrayList<>();
        statements.add("SET CONSTRAINTS ALL IMMEDIATE");
        for (Arrival arrival : arrivals) {
            statements.addAll(list(session, alterBack(arrival)));
        }
        return statements;
    }

    private String alterReferences(Arrival arrival, String words) {
        return "SELECT format('ALTER TABLE %s ALTER CONSTRAINT %I " + words + "', conrelid::regclass, conname)"
                + " FROM pg_constraint WHERE contype = 'f' AND NOT condeferrable AND conparentid = 0 AND conrelid = "
                + regclass(arrival.name()) + " ORDER BY conname";
    }

    private String alterBack(Arrival arrival) {
        String strict = arrival.there().orElseThrow().foreignKeys().stream()
                .filter(k -> k.deferrability() == Deferrability.NOT_DEFERRABLE)
                .map(k -> DefinitionSql.string(k.name()))
                .collect(Collectors.joining(", "));
        return "SELECT format('ALTER TABLE %s ALTER CONSTRAINT %I NOT DEFERRABLE', conrelid::regclass, conname)"
                + " FROM pg_constraint WHERE contype = 'f' AND conparentid = 0 AND conrelid = "
                + regclass(arrival.name()) + " AND conname IN (" + (strict.isEmpty() ? "NULL" : strict) + ")";
    }

    @Override
    public List<Deed> leftovers(List<Arrival> arrivals) {
        return arrivals.stream()
                .filter(a -> !a.isNewTable())
                .map(a -> (Deed) new Deed.TableMade(a.loaded()))
                .toList();
    }

    /** A type that a table has come to use stays: PostgreSQL refuses to drop it. */
    @Override
    public List<String> remedy(Session session, Deed deed) throws SQLException {
        return deed instanceof Deed.TypeMade made
                ? List.of("DROP TYPE IF EXISTS " + dialect.quote(made.type()))
                : Settling.super.remedy(session, deed);
    }

    /**
     * Texts by their bytes, since a collation may take two spellings for the same; and what may be written in two ways that are equal, as
     * an interval of a day and one of 24 hours, or has no equality, as JSON, by its text. Of floating point numbers only the two zeros
     * are equal and not the same.
     */
    @Override
    public String differ(ColumnDefinition column, String one, String other) {
        if (column.type().name() == TypeName.DECIMAL && column.type().isSized()) {
            // of one scale, so that there is one way to write them
            return one + " IS DISTINCT FROM " + other;
        }
        return switch (column.type().name()) {
            case BOOLEAN,
                    SMALLINT,
                    INTEGER,
                    BIGINT,
                    DATE,
                    TIME,
                    TIMESTAMP,
                    TIMESTAMP_WITH_TIME_ZONE,
                    UUID,
                    BINARY,
                    VARBINARY,
                    BLOB -> one + " IS DISTINCT FROM " + other;
            case REAL, DOUBLE ->
                "(" + one + " IS DISTINCT FROM " + other + " OR " + one + " = 0 AND " + one + "::text <> " + other
                        + "::text)";
            default ->
                "(" + PostgresTypes.text(column.sourceType(), one) + ") COLLATE \"C\" IS DISTINCT FROM ("
                        + PostgresTypes.text(column.sourceType(), other) + ") COLLATE \"C\"";
        };
    }

    @Override
    public String update(Session session, Arrival arrival, String keys, String differ, List<ColumnDefinition> set) {
        return "UPDATE " + dialect.quote(arrival.name()) + " t SET "
                + set.stream()
                        .map(c -> dialect.quote(c.name()) + " = s." + dialect.quote(c.name()))
                        .collect(Collectors.joining(", "))
                + " FROM " + dialect.quote(arrival.loaded()) + " s WHERE " + keys + " AND " + differ;
    }
}
