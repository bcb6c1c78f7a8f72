package org.orderlyferry.testkit.standin;

import java.sql.SQLException;

/** Says in H2's words what it has no word of the system's for. */
interface Translation {

    /**
     * A statement as H2 takes it.
     *
     * @throws SQLException where the system would refuse it
     */
    String of(String sql) throws SQLException;
}
