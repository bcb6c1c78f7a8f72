package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.databases.dialect.Deed;
import org.orderlyferry.databases.dialect.ReservedNames;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.UsageException;

/**
 * A small table in the target that says what a load under way has done: a line for each step, written before the step is
 * done. If the load is killed, whoever comes next goes backwards through the lines, and for each asks the dialect what
 * is to be done, which it derives from what is there. The lines hold facts and no SQL: a database's users may write into
 * it what they like. It goes when the load ends.
 */
public final class Ledger {

    public static final TableName NAME = ReservedNames.LEDGER;

    /** The number of a load's first step. */
    private static final int FIRST = 1;

    private final Session session;
    private final Settling settling;
    private final DeedTable table;
    private int next = FIRST;
    private boolean open;

    Ledger(Session session) {
        this.session = session;
        this.settling = session.dialect().writing().settling();
        this.table = new DeedTable(session, NAME);
    }

    /**
     * The tables that are a load's and none of the users': the ledger, and those that it tells of. A table that merely
     * has such a name is its user's.
     */
    public static Set<TableName> own(Session session) throws SQLException {
        if (!isThere(session)) {
            return Set.of();
        }
        Set<TableName> own = new HashSet<>(Set.of(NAME));
        for (DeedText line : new Ledger(session).table.lines().texts()) {
            if (line.deed() instanceof Deed.TableMade made) {
                own.add(made.table());
                own.add(new TableName(made.table().schema(), made.table().name() + "o"));
            }
        }
        own.removeIf(t -> !ReservedNames.isReserved(t.name()));
        return own;
    }

    /** Whether a load is under way, or was killed. */
    public static boolean isThere(Session session) throws SQLException {
        return named(session) && whyNotTrusted(session).isEmpty();
    }

    private static boolean named(Session session) throws SQLException {
        return session.catalogue().has(NAME);
    }

    /** Why a table of the ledger's name isn't one that a load of this user has made. */
    private static Optional<String> whyNotTrusted(Session session) throws SQLException {
        List<String> columns = session.catalogue().define(NAME).columnNames().stream()
                .map(n -> n.toLowerCase(java.util.Locale.ROOT))
                .toList();
        if (!columns.equals(DeedTable.COLUMNS)) {
            return Optional.of("it has the columns " + columns);
        }
        return session.dialect()
                .writing()
                .strangeOwner(session, NAME)
                .map(owner -> "it belongs to " + owner + ", who may not do what the user may who loads");
    }

    /**
     * Refuses a database in which somebody else has put a table of the ledger's name.
     *
     * @throws UsageException if so
     */
    static void refuseStranger(Session session) throws SQLException {
        Optional<String> why = named(session) ? whyNotTrusted(session) : Optional.empty();
        if (why.isPresent()) {
            throw new UsageException(
                    session.address() + " has a table " + NAME + ", which is the name of Ferry's own ledger,"
                            + " and no load of this user has made it: " + why.get()
                            + ". See what it is, and remove it or give it"
                            + " another name; nothing was changed");
        }
    }

    /** Whether it is that of a load of a plan, which another one of the same plan can go on with. */
    boolean isOf(String plan) throws SQLException {
        boolean planned = false;
        boolean more = false;
        for (DeedText line : table.lines().texts()) {
            Deed deed = line.deed();
            if (deed instanceof Deed.Settled && more) {
                return false;
            }
            more |= !(deed instanceof Deed.Settled || deed instanceof Deed.KeyBegun);
            planned |= deed instanceof Deed.Planned made && made.plan().equals(plan);
        }
        return planned;
    }

    /** Which of its keys were begun last, by tables on the way; none where no key was begun. */
    Map<TableName, Integer> keysBegun() throws SQLException {
        Map<TableName, Integer> begun = new HashMap<>();
        for (DeedText line : table.lines().texts()) {
            if (line.deed() instanceof Deed.KeyBegun key) {
                begun.putIfAbsent(key.table(), key.number());
            }
        }
        return begun;
    }

    /** Runs a statement that adds a key to a table on its way; the key is noted before it. */
    void addKey(Deed.KeyBegun key, String sql) throws SQLException {
        if (open) {
            // in a transaction with the key, or committed by it
            add(key);
        }
        session.execute(sql);
        session.connection().commit();
    }

    /** Takes up a ledger that is there: what is done from now on comes behind its lines. */
    void takeUp() throws SQLException {
        next = table.next(FIRST);
        open = true;
    }

    /** Writes down what needs no step of its own. */
    void note(Deed deed) throws SQLException {
        if (open) {
            add(deed);
            session.connection().commit();
        }
    }

    void open() throws SQLException {
        table.create();
        session.connection().commit();
        open = true;
    }

    /** Does a step, which is written down first; a load that is one transaction needs no ledger for that. */
    void step(Settling.Step step) throws SQLException {
        if (open && step.deed().isPresent()) {
            // stays even if the step's own transaction doesn't
            add(step.deed().get());
            session.connection().commit();
        }
        session.execute(step.sql());
        if (open) {
            session.connection().commit();
        }
    }

    /**
     * Replaces all lines by others with higher numbers, as part of the session's transaction: from its commit on, there
     * is no way back.
     */
    void replace(List<Deed> left) throws SQLException {
        table.clear();
        for (int i = left.size() - 1; i >= 0; i--) {
            add(left.get(i));
        }
    }

    private void add(Deed deed) throws SQLException {
        table.add(next++, deed);
    }

    /**
     * Goes through all lines backwards and does what is to be done about each. A step that the database shows as never
     * done needs nothing; whatever fails is an error, and the ledger stays for another try.
     *
     * @return whether that was a way back; where lines were {@linkplain #replace replaced}, it leads to the load's end. A
     *     ledger without lines is one that was just opened: what replaces others is never none
     */
    boolean undo() throws SQLException {
        DeedTable.Lines lines = table.lines();
        for (DeedText line : lines.texts()) {
            remedy(line.deed());
        }
        close();
        return lines.first() <= FIRST;
    }

    /** Does what is to be done about a deed. */
    void remedy(Deed deed) throws SQLException {
        for (String sql : statements(deed)) {
            session.execute(sql);
            session.connection().commit();
        }
    }

    private List<String> statements(Deed deed) throws SQLException {
        if (deed instanceof Deed.Planned || deed instanceof Deed.Settled || deed instanceof Deed.KeyBegun) {
            return List.of();
        }
        if (deed instanceof Deed.CounterBehind counter) {
            return session.catalogue().has(counter.table())
                    ? session.dialect()
                            .writing()
                            .counterStatements(
                                    session,
                                    Counters.raised(session.catalogue().define(counter.table()), counter.next()))
                    : List.of();
        }
        return settling.remedy(session, deed);
    }

    void close() throws SQLException {
        table.drop();
        session.connection().commit();
    }

    /** Takes the table away as part of the session's transaction. */
    void drop() throws SQLException {
        table.drop();
    }
}
