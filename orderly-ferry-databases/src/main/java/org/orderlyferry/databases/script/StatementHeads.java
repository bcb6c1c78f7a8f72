package org.orderlyferry.databases.script;

import java.util.Optional;
import org.orderlyferry.databases.dialect.Scripting;

/**
 * Heads of statements that bring records, one after the other: a script repeats the same one for each record where its system
 * takes one at a time. Not safe for use by several threads.
 */
final class StatementHeads {

    private final Scripting scripting;
    private String last = "";
    private Optional<DataStatement> found = Optional.empty();

    StatementHeads(Scripting scripting) {
        this.scripting = scripting;
    }

    /** What a statement is, if it brings records. */
    Optional<DataStatement> of(String sql) {
        if (!sql.equals(last)) {
            found = DataStatement.of(sql, scripting::folded);
            last = sql;
        }
        return found;
    }
}
