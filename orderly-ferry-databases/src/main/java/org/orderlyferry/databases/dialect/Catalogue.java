package org.orderlyferry.databases.dialect;

import java.sql.SQLException;
import java.util.List;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** The definitions that a database holds, read from its own catalogue. */
public interface Catalogue {

    /** The tables of users, not of the system. */
    List<TableName> tables() throws SQLException;

    /** A table's definition; the table is known to be there. */
    TableDefinition define(TableName table) throws SQLException;

    /** What the case of letters is to the names of its tables. */
    default TableCase tableCase() throws SQLException {
        return TableCase.TOLD_APART;
    }

    /** Views, triggers and whatever else isn't carried. */
    List<LeftBehind> leftBehind() throws SQLException;
}
