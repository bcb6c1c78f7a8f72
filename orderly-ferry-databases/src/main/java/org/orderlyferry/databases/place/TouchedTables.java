package org.orderlyferry.databases.place;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.problem.PlaceException;
import org.slf4j.LoggerFactory;

/**
 * How many tables a session has read so far. What it holds for each of them up to its end, such as locks, may become too
 * much for a server that has thousands of tables; so it lets go of that every so often, and goes on to see the same.
 */
final class TouchedTables implements AutoCloseable {

    /** So many tables are no burden for a server, with all their indexes. */
    private static final int FEW = 200;

    /** After so many it lets go: others do the same, each with as many. */
    private static final int AT_ONCE = 50;

    private final Connector connector;
    private final Session session;
    /** Sessions that only keep what is seen. */
    private final List<Session> keepers = new ArrayList<>();

    private int touched;
    /** Whether there is no connection for that. */
    private boolean refused;

    TouchedTables(Connector connector, Session session) {
        this.connector = connector;
        this.session = session;
    }

    /**
     * Before another table is read.
     *
     * @param there how many tables there are
     */
    void another(int there) {
        if (there <= FEW || refused || touched++ % AT_ONCE != 0) {
            return;
        }
        session.work("what the session holds can't be let go of", () -> {
            session.dialect().reading().lighten(session, this::keeper);
            return null;
        });
    }

    /** None where the user may have no more connections: then the server may do with what there is. */
    private Optional<Session> keeper() {
        try {
            Session keeper = connector.open();
            keepers.add(keeper);
            return Optional.of(keeper);
        } catch (PlaceException e) {
            LoggerFactory.getLogger(TouchedTables.class).debug("no connection to keep what is seen", e);
            refused = true;
            return Optional.empty();
        }
    }

    @Override
    public void close() {
        keepers.forEach(Session::close);
    }
}
