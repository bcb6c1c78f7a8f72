package org.orderlyferry.databases.dialect;

import java.util.Optional;
import org.orderlyferry.model.TableName;

/**
 * A system's SQL: its names, types, definitions and scripts, for which nobody has to be connected to it. Systems that are known
 * by their SQL alone are found by {@link java.util.ServiceLoader} under this name, those that are connected to as
 * {@link Dialect}. Immutable, for use by any number of threads.
 */
public interface SystemSql {

    /** The system's name, for example {@code SQLite}. */
    String system();

    /** A name in quotes. */
    String quote(String name);

    /** A table's name with its schema, in quotes. */
    default String quote(TableName table) {
        return table.schema().isEmpty() ? quote(table.name()) : quote(table.schema()) + "." + quote(table.name());
    }

    /** A collation of the system's own, as it stands behind COLLATE; nothing where it is none. */
    default Optional<String> collation(String written) {
        return Optional.empty();
    }

    /** Which names it takes. */
    NamingRules naming();

    TypeMapping types();

    /** How tables are defined in it. */
    Defining defining();

    Scripting scripting();
}
