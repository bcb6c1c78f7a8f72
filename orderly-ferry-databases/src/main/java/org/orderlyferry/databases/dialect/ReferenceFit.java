package org.orderlyferry.databases.dialect;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import org.apiguardian.api.API;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.record.fit.TypeFit;

/** Gives columns that refer to others the type of these, in systems that need it. */
@API(status = API.Status.INTERNAL)
public final class ReferenceFit {

    private final LoadNotes notes;
    private final Function<TableName, Optional<TableDefinition>> targets;
    private boolean changed;
    /** Whether types stay as they are from now on. */
    private boolean settled;

    private ReferenceFit(LoadNotes notes, Function<TableName, Optional<TableDefinition>> targets) {
        this.notes = notes;
        this.targets = targets;
    }

    /** Follows all references among tables, also along chains of them; a circle may have no types that fit all around. */
    public static void unite(Map<TableName, TableDefinition> tables, LoadNotes notes) {
        unite(tables, notes, name -> Optional.empty());
    }

    /**
     * Follows all references.
     *
     * @param tables by whatever name; each is replaced by one whose columns fit
     * @param others finds tables that are there and stay as they are
     */
    public static void unite(
            Map<TableName, TableDefinition> tables,
            LoadNotes notes,
            Function<TableName, Optional<TableDefinition>> others) {
        ReferenceFit fit = new ReferenceFit(notes, name -> tables.values().stream()
                .filter(t -> t.name().equals(name))
                .findFirst()
                .or(() -> others.apply(name)));
        fit.changed = true;
        for (int round = 0; fit.changed && round <= tables.size(); round++) {
            fit.changed = false;
            fit.settled = round == tables.size();
            tables.replaceAll((name, table) -> fit.united(table));
        }
    }

    private TableDefinition united(TableDefinition whole) {
        TableDefinition table = whole;
        List<ForeignKey> kept = new ArrayList<>();
        for (ForeignKey key : whole.foreignKeys()) {
            TableDefinition now = table;
            Optional<TableDefinition> target =
                    key.target().equals(whole.name()) ? Optional.of(now) : targets.apply(key.target());
            Optional<TableDefinition> fitted = target.flatMap(t -> fitted(now, key, t));
            if (target.isPresent() && fitted.isEmpty()) {
                notes.leftBehind(
                        "foreign key",
                        table.name() + "." + key.shown(),
                        "its columns are of other types than those of " + key.target() + " that they refer to");
            } else {
                table = fitted.orElse(table);
                kept.add(key);
            }
        }
        return table.toBuilder().foreignKeys(kept).build();
    }

    /** Whether two types are one for the system, whatever words were chosen for it. */
    public static boolean isSame(ColumnDefinition one, ColumnDefinition other) {
        return one.sourceType().equalsIgnoreCase(other.sourceType())
                || one.type().equals(other.type())
                        && one.enumeration().isPresent() == other.enumeration().isPresent()
                        && one.sourceType().contains("unsigned")
                                == other.sourceType().contains("unsigned");
    }

    /** The table with the types that a reference needs; nothing where they can't hold the values. */
    private Optional<TableDefinition> fitted(TableDefinition table, ForeignKey key, TableDefinition target) {
        List<ColumnDefinition> columns = new ArrayList<>(table.columns());
        for (int i = 0; i < key.columns().size(); i++) {
            int at = table.columnNames().indexOf(key.columns().get(i));
            ColumnDefinition mine = columns.get(at);
            Optional<ColumnDefinition> its = target.column(key.targetColumns().get(i));
            if (its.isEmpty() || isSame(mine, its.get())) {
                continue;
            }
            if (settled || TypeFit.of(mine.type(), its.get().type()) != TypeFit.ALWAYS) {
                return Optional.empty();
            }
            notes.finding(
                    FindingCode.TYPE_CHANGED,
                    table.name(),
                    mine.name(),
                    "becomes " + its.get().sourceType() + " instead of " + mine.sourceType() + ", like " + target.name()
                            + "." + its.get().name() + ", which it refers to");
            changed = true;
            columns.set(
                    at,
                    mine.withType(its.get().type()).toBuilder()
                            .sourceType(its.get().sourceType())
                            // what refers to one of these texts is one of them
                            .enumeration(its.get().enumeration())
                            .build());
        }
        return Optional.of(table.toBuilder().columns(columns).build());
    }
}
