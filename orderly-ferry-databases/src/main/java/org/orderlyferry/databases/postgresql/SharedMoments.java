package org.orderlyferry.databases.postgresql;

import java.lang.ref.WeakReference;
import java.sql.SQLException;
import java.util.Collections;
import java.util.Map;
import java.util.Optional;
import java.util.WeakHashMap;
import java.util.function.Supplier;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.Session;
import org.postgresql.PGConnection;
import org.postgresql.jdbc.AutoSave;

/**
 * Snapshots that several sessions see. One lasts as long as the transaction of the session that has exported it, and that
 * keeps the locks of all tables that it has read, and of their indexes, for which a server has room for some thousands. So
 * where there are many tables, another session that reads none keeps the snapshot, and those that read begin new transactions
 * on it.
 */
final class SharedMoments {

    /** A snapshot, by the name under which it can be seen now. */
    private static final class Moment {
        private String name;
        private WeakReference<Session> owner;
        /** Whether other processes have been told its name. */
        private boolean told;

        private Moment(String name, Session owner) {
            isOf(name, owner);
        }

        private void isOf(String itsName, Session itsOwner) {
            name = itsName;
            owner = new WeakReference<>(itsOwner);
        }
    }

    /** By the sessions that see it, as long as these are there. */
    private final Map<Session, Moment> moments = Collections.synchronizedMap(new WeakHashMap<>());

    /** Has another session see what the first one sees, which has read nothing yet when this is asked first. */
    void share(Session first, Session other) throws SQLException {
        Moment moment = of(first);
        synchronized (moment) {
            begin(other, moment);
        }
        moments.put(other, moment);
    }

    /** The name by which other processes see it, for as long as the session is open. */
    String told(Session first) throws SQLException {
        Moment moment = of(first);
        synchronized (moment) {
            moment.told = true;
            return moment.name;
        }
    }

    /** Has a session see what another process has told of. */
    void see(Session session, String name) throws SQLException {
        Moment moment = new Moment(name, null);
        begin(session, moment);
        moments.put(session, moment);
    }

    /** @see org.orderlyferry.databases.dialect.Reading#lighten */
    void lighten(Session session, Supplier<Optional<Session>> keeper) throws SQLException {
        Moment moment = moments.get(session);
        if (moment == null) {
            Optional<Session> kept = keeper.get();
            if (kept.isEmpty()) {
                return;
            }
            moment = of(kept.get());
            moments.put(session, moment);
        }
        synchronized (moment) {
            if (moment.owner.get() == session && !hasPassedOn(moment, keeper)) {
                return;
            }
            session.rollback();
            begin(session, moment);
        }
    }

    /** Others see it by a name of the keeper's from now on; it can't be passed on where they are in other processes. */
    private static boolean hasPassedOn(Moment moment, Supplier<Optional<Session>> keeper) throws SQLException {
        Optional<Session> kept = moment.told ? Optional.empty() : keeper.get();
        if (kept.isPresent()) {
            begin(kept.get(), moment);
            moment.isOf(exported(kept.get()), kept.get());
        }
        return kept.isPresent();
    }

    private Moment of(Session first) throws SQLException {
        synchronized (moments) {
            Moment moment = moments.get(first);
            if (moment == null) {
                first.rollback();
                moment = new Moment(exported(first), first);
                moments.put(first, moment);
            }
            return moment;
        }
    }

    private static String exported(Session session) throws SQLException {
        return withoutSavepoints(
                session, () -> session.value("SELECT pg_export_snapshot()").orElseThrow());
    }

    private static void begin(Session session, Moment moment) throws SQLException {
        withoutSavepoints(session, () -> {
            session.execute("SET TRANSACTION SNAPSHOT " + DefinitionSql.string(moment.name));
            return null;
        });
    }

    /** Snapshots can neither be given nor taken behind a savepoint. */
    private static <T> T withoutSavepoints(Session session, Session.Work<T> work) throws SQLException {
        PGConnection connection = session.connection().unwrap(PGConnection.class);
        AutoSave before = connection.getAutosave();
        connection.setAutosave(AutoSave.NEVER);
        try {
            return work.doIt();
        } finally {
            connection.setAutosave(before);
        }
    }
}
