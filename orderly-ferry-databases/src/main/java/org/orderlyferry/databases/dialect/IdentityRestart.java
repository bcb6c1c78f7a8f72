package org.orderlyferry.databases.dialect;

import java.math.BigInteger;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.apiguardian.api.API;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.TableDefinition;

/** Sets identity columns past the highest value, in systems that do so as ISO/IEC 9075-2 has it. */
@API(status = API.Status.INTERNAL)
public final class IdentityRestart {

    private IdentityRestart() {}

    /** Statements that set all of a table's counters. */
    public static List<String> statements(Session session, TableDefinition table) throws SQLException {
        List<String> statements = new ArrayList<>();
        for (ColumnDefinition column : table.columns()) {
            if (column.identity().isPresent()) {
                statements.add("ALTER TABLE " + session.dialect().quote(table.name()) + " ALTER COLUMN "
                        + session.dialect().quote(column.name()) + " RESTART WITH "
                        + next(session, table, column));
            }
        }
        return statements;
    }

    /** The value that a counter has to give next: past the highest one, and not before what its source would give. */
    public static long next(Session session, TableDefinition table, ColumnDefinition column) throws SQLException {
        Identity identity = column.identity().orElseThrow();
        boolean down = identity.increment() < 0;
        Dialect dialect = session.dialect();
        Optional<String> last = session.value("SELECT " + (down ? "MIN(" : "MAX(") + dialect.quote(column.name())
                + ") FROM " + dialect.quote(table.name()));
        if (last.isEmpty()) {
            return identity.next();
        }
        BigInteger after = new BigInteger(last.get()).add(BigInteger.valueOf(down ? -1 : 1));
        BigInteger next = BigInteger.valueOf(identity.next());
        BigInteger wanted = down ? next.min(after) : next.max(after);
        return wanted.bitLength() > 63 ? (down ? Long.MIN_VALUE : Long.MAX_VALUE) : wanted.longValue();
    }
}
