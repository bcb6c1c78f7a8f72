package org.orderlyferry.databases.loading;

import static org.apiguardian.api.API.Status.INTERNAL;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.apiguardian.api.API;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.Deed;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.ReservedNames;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.KeptTables;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.problem.UsageException;

/**
 * Tables that loads have replaced, in schemas of ours: one for the name that they are kept by, which also holds what there is to know
 * of them, and one more for each other schema that they come from.
 */
@API(status = INTERNAL)
public final class KeptAside implements KeptTables {

    /** So many tables go in one transaction, since each needs locks. */
    private static final int AT_ONCE = 200;

    private static final int FIRST = 1;

    private final Session session;
    private final Dialect dialect;
    private final Settling settling;

    public KeptAside(Session session) {
        this.session = session;
        this.dialect = session.dialect();
        this.settling = dialect.writing().settling();
    }

    /**
     * What is kept by a name.
     *
     * @param tables where each is kept, by its own name
     * @param references what referred to others from there
     */
    private record Kept(Map<TableName, TableName> tables, List<Deed.ReferenceDropped> references) {

        Set<String> schemas(String first) {
            Set<String> schemas = new LinkedHashSet<>();
            tables.values().forEach(t -> schemas.add(t.schema()));
            schemas.remove(first);
            schemas.add(first);
            return schemas;
        }
    }

    private static String schema(String name) {
        return ReservedNames.KEPT + name;
    }

    /** Where a table is kept. The schemas that tables come from may have tables of the same names. */
    private static TableName place(String name, TableName table) {
        return new TableName(schema(name) + (table.schema().isEmpty() ? "" : "_" + mark(table.schema())), table.name());
    }

    private static String mark(String schema) {
        try {
            byte[] digest = MessageDigest.getInstance("SHA-256").digest(schema.getBytes(StandardCharsets.UTF_8));
            return HexFormat.of().formatHex(digest, 0, Integer.BYTES);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }

    private static DeedTable facts(Session session, String name) {
        return new DeedTable(session, new TableName(schema(name), ReservedNames.LEDGER.name()));
    }

    /**
     * Makes ready, in the transaction in which tables take their places, for those to be kept that are replaced.
     *
     * @return the same tables, of which each that replaces another knows where that is kept
     */
    static List<Arrival> keeping(Session session, String name, List<Arrival> arrivals) throws SQLException {
        List<TableName> from = new ArrayList<>();
        List<TableName> to = new ArrayList<>();
        List<Deed> deeds = new ArrayList<>();
        List<Arrival> keeping = new ArrayList<>();
        for (Arrival arrival : arrivals) {
            if (arrival.there().isEmpty()) {
                keeping.add(arrival);
                continue;
            }
            TableName place = place(name, arrival.name());
            from.add(arrival.name());
            to.add(place);
            for (ForeignKey key : session.catalogue().define(arrival.name()).foreignKeys()) {
                deeds.add(new Deed.ReferenceDropped(arrival.name(), key));
            }
            keeping.add(arrival.keeping(place));
        }
        if (from.isEmpty()) {
            return arrivals;
        }
        deeds.add(0, new Deed.Renamed(from, to));
        Set<String> schemas = new LinkedHashSet<>(Set.of(schema(name)));
        to.forEach(t -> schemas.add(t.schema()));
        for (String schema : schemas) {
            session.execute("CREATE SCHEMA " + session.dialect().quote(schema));
        }
        DeedTable facts = facts(session, name);
        facts.create();
        int number = FIRST;
        for (Deed deed : deeds) {
            facts.add(number++, deed);
        }
        return keeping;
    }

    private Kept kept(String name) throws SQLException {
        if (!dialect.writing().schemas(session).contains(schema(name))) {
            return new Kept(Map.of(), List.of());
        }
        Optional<String> stranger =
                dialect.writing().strangeOwner(session, new TableName(schema(name), ReservedNames.LEDGER.name()));
        if (stranger.isPresent()) {
            throw new UsageException(session.address() + " has a schema " + schema(name)
                    + ", which no load of this user has made: its tables belong to " + stranger.get()
                    + ", who may not do what the user may");
        }
        Map<TableName, TableName> tables = new LinkedHashMap<>();
        List<Deed.ReferenceDropped> references = new ArrayList<>();
        for (DeedText line : facts(session, name).lines().texts()) {
            Deed deed = line.deed();
            if (deed instanceof Deed.Renamed renamed) {
                for (int i = 0; i < renamed.from().size(); i++) {
                    TableName from = renamed.from().get(i);
                    if (!place(name, from).equals(renamed.to().get(i))) {
                        throw Settling.unknown(deed);
                    }
                    tables.put(from, renamed.to().get(i));
                }
            } else if (deed instanceof Deed.ReferenceDropped dropped) {
                references.add(0, dropped);
            } else {
                throw Settling.unknown(deed);
            }
        }
        return new Kept(tables, references);
    }

    @Override
    public Optional<String> obstacle(List<TableName> tables) {
        return session.work("whether tables can be kept can't be told", () -> settling.whyNotKept(session, tables));
    }

    @Override
    public List<TableName> of(String name) {
        return session.work("what is kept can't be told", () -> {
            List<TableName> tables = List.copyOf(kept(name).tables().keySet());
            session.rollback();
            return tables;
        });
    }

    @Override
    public void bringBack(String name, List<TableName> going) {
        lasting("the tables that were kept can't be brought back, and nothing was changed", () -> {
            LoadLock.take(session);
            Ledger.refuseStranger(session);
            back(name, going);
        });
    }

    /** A part of work that may fail as a statement does. */
    private interface Part {
        void run() throws SQLException;
    }

    /** Does a part of work and makes it last; if it fails, what it has done since its last commit is undone. */
    private void lasting(String failure, Part part) {
        try {
            session.work(failure, () -> {
                part.run();
                session.connection().commit();
                return null;
            });
        } catch (RuntimeException e) {
            session.rollback();
            throw e;
        }
    }

    private void back(String name, List<TableName> going) throws SQLException {
        Kept kept = kept(name);
        Set<TableName> there = Set.copyOf(session.catalogue().tables());
        List<Arrival> arrivals = new ArrayList<>();
        kept.tables().forEach((table, place) -> {
            TableDefinition named = TableDefinition.named(table).build();
            arrivals.add(new Arrival(
                    table,
                    LoadMode.REPLACE,
                    named,
                    place,
                    there.contains(table) ? Optional.of(named) : Optional.empty()));
        });
        List<TableName> leaving = going.stream().filter(there::contains).toList();
        for (String sql : settling.bringBack(session, arrivals, leaving)) {
            session.execute(sql);
        }
        DefinitionSql sql = new DefinitionSql(dialect);
        for (Deed.ReferenceDropped dropped : kept.references()) {
            session.execute("ALTER TABLE " + dialect.quote(dropped.table()) + " ADD " + sql.foreignKey(dropped.key()));
        }
        clear(name, kept);
    }

    private void clear(String name, Kept kept) throws SQLException {
        facts(session, name).drop();
        for (String schema : kept.schemas(schema(name))) {
            // without CASCADE: what somebody else has put there keeps it
            session.execute("DROP SCHEMA " + dialect.quote(schema));
        }
    }

    @Override
    public void drop(String name) {
        lasting("the tables that were kept can't be taken away", () -> {
            Kept kept = kept(name);
            int done = 0;
            for (TableName place : kept.tables().values()) {
                session.execute("DROP TABLE IF EXISTS " + dialect.quote(place));
                if (++done % AT_ONCE == 0) {
                    session.connection().commit();
                }
            }
            if (done > 0) {
                clear(name, kept);
            }
        });
    }
}
