package org.orderlyferry.databases.dialect;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import org.apiguardian.api.API;
import org.orderlyferry.model.ColumnDefinition;

/** How a system takes digests of records by its own SQL. Immutable. */
@API(status = API.Status.INTERNAL)
public interface RecordDigests {

    /**
     * How a server takes them: those that say the same take the same digest of values of the same kinds.
     *
     * @return empty where it can take none
     */
    Optional<String> form(Session session) throws SQLException;

    /**
     * Of what kind a column's values are, as far as that has to do with their digest.
     *
     * @return empty where a value is more than what the server would take for equal
     */
    Optional<String> kind(ColumnDefinition column);

    /**
     * The expression for a record's digest, a whole number of 64 bits that is never null.
     *
     * @param columns at least one, each of some kind
     * @return empty where there are too many for the system
     */
    Optional<String> of(List<ColumnDefinition> columns, long seed);

    /** A column of that, as one that the system's bulk lane reads. */
    ColumnDefinition column(String name);
}
