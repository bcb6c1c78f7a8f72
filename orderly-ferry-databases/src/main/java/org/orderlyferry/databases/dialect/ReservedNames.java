package org.orderlyferry.databases.dialect;

import static org.apiguardian.api.API.Status.INTERNAL;

import java.util.Locale;
import java.util.Optional;
import org.apiguardian.api.API;
import org.orderlyferry.model.TableName;

/** Names that a load gives to what it makes, so that it can be told from what users have. */
@API(status = INTERNAL)
public final class ReservedNames {

    private static final String HEAD = "orderly_ferry_";

    /** The table that holds deeds. */
    public static final TableName LEDGER = TableName.of(HEAD + "ledger");

    /** The table that holds the receipts of parts that are in. */
    public static final TableName RECEIPTS = TableName.of(HEAD + "receipts");

    /** What names of schemas begin with that hold tables which were replaced, until nobody wants them back any more. */
    public static final String KEPT = HEAD + "kept_";

    private ReservedNames() {}

    /** A table on its way, by its number. */
    public static String onTheWay(int number) {
        return HEAD + number;
    }

    /** Whether a name is one that a load gives; no user's table is made under such a name. */
    public static boolean isReserved(String name) {
        return name.toLowerCase(Locale.ROOT).matches(HEAD + "(ledger|receipts|\\d+o?|\\d+t\\d+)");
    }

    /** Whether a schema's name is one of those in which replaced tables are kept; nobody else's tables are seen there. */
    public static boolean isReservedSchema(String name) {
        return name.toLowerCase(Locale.ROOT).startsWith(KEPT);
    }

    /** The table with a name of ours among two; nothing where there is none. */
    static Optional<TableName> reserved(TableName one, TableName other) {
        return isReserved(one.name()) ? Optional.of(one) : Optional.of(other).filter(o -> isReserved(o.name()));
    }
}
