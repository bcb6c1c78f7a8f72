package org.orderlyferry.databases.dialect;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiPredicate;
import java.util.function.Function;
import org.apiguardian.api.API;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.fit.TypeFit;

/**
 * Gives columns that refer to others the type of these, where the system needs it; a reference that can't be made so is left
 * behind, by name, before anything moves.
 */
@API(status = API.Status.INTERNAL)
public final class ReferenceFit {

    private final BiPredicate<ColumnDefinition, ColumnDefinition> canRefer;
    private final LoadNotes notes;
    /** What columns were narrowed to: one that refers to two of other types would else become the one and the other in turn. */
    private final Set<Narrowed> narrowed = new HashSet<>();

    private record Narrowed(TableName table, String column, LogicalType type) {}

    /**
     * By what a system takes.
     *
     * @param canRefer whether a column can refer to another one, as both are
     */
    public ReferenceFit(BiPredicate<ColumnDefinition, ColumnDefinition> canRefer, LoadNotes notes) {
        this.canRefer = canRefer;
        this.notes = notes;
    }

    /**
     * Follows all references, also along chains of them; a circle may have no types that fit all around.
     *
     * @param tables by whatever name; each is replaced by one whose columns fit
     * @param others finds tables that are there and stay as they are
     */
    public void unite(Map<TableName, TableDefinition> tables, Function<TableName, Optional<TableDefinition>> others) {
        // by name, since a load has thousands of them; names of the moment, since each may be replaced by another
        Map<TableName, TableName> sources = new HashMap<>();
        tables.forEach((source, table) -> sources.put(table.name(), source));
        boolean changed = true;
        for (int round = 0; changed && round <= tables.size(); round++) {
            Round one = new Round(
                    name -> sources.containsKey(name) ? Optional.of(tables.get(sources.get(name))) : others.apply(name),
                    // types stay as they are from now on
                    round == tables.size());
            tables.replaceAll((name, table) -> one.united(table));
            changed = one.changed;
        }
    }

    /** Whether two types are one for the system, whatever words were chosen for it. */
    public static boolean isSame(ColumnDefinition one, ColumnDefinition other) {
        return one.sourceType().equalsIgnoreCase(other.sourceType())
                || one.type().equals(other.type())
                        && one.enumeration().isPresent() == other.enumeration().isPresent()
                        && one.sourceType().contains("unsigned")
                                == other.sourceType().contains("unsigned");
    }

    /** Whether values of two types can be the same ones: both numbers, both texts, both moments, or of one type. */
    public static boolean isOfOneKind(LogicalType one, LogicalType other) {
        return one.equals(other) || kind(one.name()) == kind(other.name());
    }

    /** Whether a column can be made as another one: what it holds are values of that one, each of which is looked at. */
    private boolean canBecome(TableName table, ColumnDefinition mine, LogicalType its) {
        LogicalType type = mine.type();
        if (isOfOneKind(type, its) && TypeFit.of(type, its) == TypeFit.ALWAYS) {
            return true;
        }
        boolean counts = type.name().isExactNumber() && its.name().isExactNumber();
        boolean texts = type.name().isText() && its.name().isText();
        return (counts || texts) && narrowed.add(new Narrowed(table, mine.name(), its));
    }

    /** One type for all of its kind. */
    private static TypeName kind(TypeName name) {
        return switch (name) {
            case SMALLINT, INTEGER, BIGINT, DECIMAL, REAL, DOUBLE -> TypeName.DECIMAL;
            case CHARACTER, VARCHAR, CLOB -> TypeName.CLOB;
            case BINARY, VARBINARY, BLOB -> TypeName.BLOB;
            case DATE, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE -> TypeName.TIMESTAMP;
            default -> name;
        };
    }

    /** Goes once through all tables. */
    private final class Round {

        private final Function<TableName, Optional<TableDefinition>> targets;
        private final boolean settled;
        private boolean changed;

        Round(Function<TableName, Optional<TableDefinition>> targets, boolean settled) {
            this.targets = targets;
            this.settled = settled;
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

        /** The table with the types that a reference needs; nothing where they can't hold the values. */
        private Optional<TableDefinition> fitted(TableDefinition table, ForeignKey key, TableDefinition target) {
            List<ColumnDefinition> columns = new ArrayList<>(table.columns());
            for (int i = 0; i < key.columns().size(); i++) {
                int at = table.columnNames().indexOf(key.columns().get(i));
                Optional<ColumnDefinition> its =
                        target.column(key.targetColumns().get(i));
                if (at < 0 || its.isEmpty() || canRefer.test(columns.get(at), its.get())) {
                    continue;
                }
                ColumnDefinition mine = columns.get(at);
                if (settled || !canBecome(table.name(), mine, its.get().type())) {
                    return Optional.empty();
                }
                notes.finding(
                        FindingCode.TYPE_CHANGED,
                        table.name(),
                        mine.name(),
                        "becomes " + its.get().sourceType() + " instead of " + mine.sourceType() + ", like "
                                + target.name() + "." + its.get().name() + ", which it refers to");
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
}
