package org.orderlyferry.databases.dialect;

import java.util.List;
import org.apiguardian.api.API;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** How tables are defined in a system's SQL, and what it can't hold. Immutable, for use by any number of threads. */
public interface Defining {

    /** How definitions are brought to what the system can hold. */
    Adapting adapting(LoadNotes notes);

    /** What of a column's values the system can't hold; {@link ValueLimit#NONE} where it holds all. */
    ValueLimit limit(TableName table, ColumnDefinition column, LoadNotes notes);

    /** What an INSERT needs between columns and source to give a counted column a value of its own. */
    default String insertClause(TableDefinition table) {
        return "";
    }

    /** Statements that make a table, ready to be loaded; the first makes it. The definition is one that was adapted. */
    List<String> createStatements(TableDefinition table);

    /** Statements for one table's keys and indexes, after its records are there. */
    List<String> keyStatements(TableDefinition table);

    /** Which references it takes. */
    @API(status = API.Status.INTERNAL)
    default ReferenceRules references() {
        return ReferenceRules.ALL;
    }

    /** Whether a column of a reference can be of the type that it has, given that of the column that it refers to. */
    default boolean canRefer(ColumnDefinition mine, ColumnDefinition its) {
        return true;
    }
}
