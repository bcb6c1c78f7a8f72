package org.orderlyferry.databases.mariadb;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;

/**
 * Brings a table into the 65,535 bytes that MariaDB has for the columns of a row, large objects apart: the longest texts
 * become large objects, one after the other, until the others have room.
 */
final class RowRoom {

    private static final int BYTES = 65_535;
    /** For marks of nulls and whatever else the server needs. */
    private static final int RESERVE = 200;

    private static final int LARGE = 12;
    private static final int NUMBER = 8;

    private RowRoom() {}

    /**
     * The table with room for its row.
     *
     * @param indexed whether a column is part of a key, a reference or an index, and so has to stay what it is
     */
    static TableDefinition fitted(TableDefinition table, Predicate<String> indexed, LoadNotes notes) {
        List<ColumnDefinition> columns = new ArrayList<>(table.columns());
        int used = columns.stream().mapToInt(RowRoom::bytes).sum() + columns.size() / 8 + RESERVE;
        while (used > BYTES) {
            Optional<ColumnDefinition> longest = columns.stream()
                    .filter(c -> bytes(c) > LARGE && isLong(c) && !indexed.test(c.name()))
                    .max(Comparator.comparingInt(RowRoom::bytes));
            if (longest.isEmpty()) {
                // the server says so, before anything moves
                break;
            }
            ColumnDefinition column = longest.get();
            boolean text = column.type().name().isText();
            notes.finding(
                    FindingCode.TYPE_CHANGED,
                    table.name(),
                    column.name(),
                    "becomes " + (text ? "LONGTEXT" : "LONGBLOB") + " instead of " + column.sourceType()
                            + ", since a row of MariaDB's has " + BYTES + " bytes");
            columns.set(
                    columns.indexOf(column),
                    column.withType(text ? LogicalType.CLOB : LogicalType.BLOB).toBuilder()
                            .sourceType(text ? "LONGTEXT" : "LONGBLOB")
                            .build());
            used -= bytes(column) - LARGE;
        }
        return table.toBuilder().columns(columns).build();
    }

    private static boolean isLong(ColumnDefinition column) {
        return column.enumeration().isEmpty()
                && (column.type().name().isText() || column.type().name().isBinary());
    }

    private static int bytes(ColumnDefinition column) {
        LogicalType type = column.type();
        if (!isLong(column)) {
            return type.isSized() && type.name().isExactNumber() ? type.size() / 2 + 1 : NUMBER;
        }
        if (column.sourceType().startsWith("LONG")) {
            return LARGE;
        }
        return type.name().isText() ? 4 * type.size() + 2 : type.size() + 2;
    }
}
