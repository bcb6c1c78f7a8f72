package org.orderlyferry.databases.mariadb;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.ToIntFunction;
import java.util.function.UnaryOperator;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;

/**
 * Brings a table into the room that MariaDB has for its definition: names, comments, enumerations and defaults of all of its
 * columns share 64 kB. The longest comments stay behind, and then the longest defaults, until the others have room.
 */
final class DefinitionRoom {

    private static final int BYTES = 65_535;
    /** For the definition's own marks, those of its keys, and of each column. */
    private static final int RESERVE = 2_000;

    private static final int EACH = 40;

    private static final String REASON = "MariaDB has 64 kB for all that is said of a table's columns";

    private DefinitionRoom() {}

    /** The table, with what its definition has room for. */
    static TableDefinition fitted(TableDefinition table, LoadNotes notes) {
        List<ColumnDefinition> columns = new ArrayList<>(table.columns());
        int used = RESERVE
                + bytes(table.comment())
                + columns.stream().mapToInt(DefinitionRoom::bytes).sum();
        used = without(table, columns, used, notes, "comment", c -> bytes(c.comment()), c -> c.toBuilder()
                .comment("")
                .build());
        without(table, columns, used, notes, "default", c -> bytes(literal(c)), c -> c.toBuilder()
                .defaultValue(Optional.empty())
                .build());
        return table.toBuilder().columns(columns).build();
    }

    private static int without(
            TableDefinition table,
            List<ColumnDefinition> columns,
            int bytes,
            LoadNotes notes,
            String kind,
            ToIntFunction<ColumnDefinition> size,
            UnaryOperator<ColumnDefinition> bare) {
        int used = bytes;
        while (used > BYTES) {
            ColumnDefinition longest =
                    columns.stream().max(Comparator.comparingInt(size)).orElseThrow();
            if (size.applyAsInt(longest) == 0) {
                return used;
            }
            notes.leftBehind(kind, table.name() + "." + longest.name(), REASON);
            columns.set(columns.indexOf(longest), bare.apply(longest));
            used -= size.applyAsInt(longest);
        }
        return used;
    }

    private static int bytes(ColumnDefinition column) {
        int labels = column.enumeration().stream()
                .flatMap(e -> e.values().stream())
                .mapToInt(v -> bytes(v) + 1)
                .sum();
        return EACH + bytes(column.name()) + bytes(column.comment()) + bytes(literal(column)) + labels;
    }

    private static String literal(ColumnDefinition column) {
        Function<ColumnDefault, String> text =
                d -> d instanceof ColumnDefault.Literal literal ? literal.text() : ((ColumnDefault.Expression) d).sql();
        return column.defaultValue().map(text).orElse("");
    }

    private static int bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8).length;
    }
}
