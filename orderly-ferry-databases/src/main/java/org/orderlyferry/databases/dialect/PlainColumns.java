package org.orderlyferry.databases.dialect;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.apiguardian.api.API;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;

/** A table's columns for systems that count in one column of a table, and in which a comparison is no value. */
@API(status = API.Status.INTERNAL)
public final class PlainColumns {

    private final String system;
    private final LoadNotes notes;

    public PlainColumns(String system, LoadNotes notes) {
        this.system = system;
        this.notes = notes;
    }

    /** The columns, without what can't be; that is noted. */
    public List<ColumnDefinition> of(TableDefinition table) {
        List<ColumnDefinition> columns = new ArrayList<>();
        String counting = "";
        for (ColumnDefinition column : table.columns()) {
            ColumnDefinition possible = computed(table, column);
            if (possible.identity().isPresent() && !counting.isEmpty()) {
                notes.leftBehind(
                        "identity",
                        table.name() + "." + column.name(),
                        system + " counts in one column of a table, and " + counting + " is one already");
                possible = possible.toBuilder().identity(Optional.empty()).build();
            } else if (possible.identity().isPresent()) {
                counting = column.name();
            }
            columns.add(possible);
        }
        return columns;
    }

    private ColumnDefinition computed(TableDefinition table, ColumnDefinition column) {
        if (column.generation().isEmpty() || column.type().name() != TypeName.BOOLEAN) {
            return column;
        }
        notes.leftBehind(
                "generation rule",
                table.name() + "." + column.name(),
                "in " + system + " a comparison is no value; the column arrives with its values: "
                        + column.generation().get().expression().sql());
        return column.toBuilder().generation(Optional.empty()).build();
    }
}
