package org.orderlyferry.databases.place;

import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.loading.Ledger;
import org.orderlyferry.databases.naming.NameMapping;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.UsageException;

/** What has been found out of a database's tables, until it may have changed. Asked by several threads. */
final class KnownTables {

    private final Session session;
    private final boolean write;
    private final Found found;
    private Catalogue catalogue;

    /** What all sessions that see the same have found out. */
    private static final class Found {

        private final Map<TableName, TableDefinition> defined = new ConcurrentHashMap<>();
        private volatile Tables tables;
    }

    /** All tables, in their order, and to be found among thousands. */
    private record Tables(List<TableName> names, Set<TableName> all) {}

    /**
     * Of a session.
     *
     * @param write whether tables are made and taken away in it
     */
    KnownTables(Session session, boolean write) {
        this(session, write, new Found());
    }

    private KnownTables(Session session, boolean write, Found found) {
        this.session = session;
        this.write = write;
        this.found = found;
    }

    /** Of another session that sees the same: what one of them finds out, now or later, the others need not. */
    KnownTables in(Session another) {
        return new KnownTables(another, write, found);
    }

    /** All tables but our own. */
    List<TableName> names() {
        return tables().names();
    }

    private Tables tables() {
        Tables tables = found.tables;
        if (tables == null) {
            tables = session.work("its tables can't be listed", () -> {
                Set<TableName> own = Ledger.own(session);
                List<TableName> names = session.catalogue().tables().stream()
                        .filter(t -> !own.contains(t))
                        .sorted()
                        .toList();
                return new Tables(names, Set.copyOf(names));
            });
            found.tables = tables;
        }
        return tables;
    }

    TableDefinition define(TableName table) {
        if (!tables().all().contains(table)) {
            throw new UsageException("there is no table " + table + " in " + session.address());
        }
        return found.defined.computeIfAbsent(
                table,
                t -> session.work("the definition of table " + t + " can't be read", () -> catalogue()
                        .define(t)));
    }

    /** The tables that refer to one. */
    List<TableName> referrers(TableName table) {
        return session.work(
                "what refers to table " + table + " can't be found out",
                () -> catalogue().referrers(Set.of(table)).stream()
                        .filter(tables().all()::contains)
                        .toList());
    }

    /** One for all tables where nothing changes: what a catalogue has found out for one it needn't ask for the next. */
    private Catalogue catalogue() {
        if (write) {
            return session.catalogue();
        }
        if (catalogue == null) {
            catalogue = session.catalogue();
        }
        return catalogue;
    }

    /** The names that tables of others would have here. */
    List<TableDefinition> named(List<TableDefinition> others) {
        NameMapping names = session.work("its tables can't be listed", () -> new NameMapping(
                        session.dialect().naming(), others, List.of())
                .held(session.catalogue().held()));
        return others.stream().map(names::map).toList();
    }

    /** After anything may have changed. */
    void forget() {
        found.tables = null;
        found.defined.clear();
    }
}
