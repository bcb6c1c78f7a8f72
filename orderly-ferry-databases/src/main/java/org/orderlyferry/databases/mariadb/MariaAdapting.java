package org.orderlyferry.databases.mariadb;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Adapting;
import org.orderlyferry.databases.dialect.CarriedComments;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Enumeration;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;

/** Brings a definition to what MariaDB can hold. */
final class MariaAdapting extends Adapting {

    /** Of a key or an index. */
    private static final int MOST_COLUMNS = 32;

    private static final int MOST_INDEXES = 64;

    private static final Set<String> NEVER_INDEXED = Set.of("LONGTEXT", "LONGBLOB", "JSON");

    private static final Set<String> TAKEN =
            Set.of("CURRENT_TIMESTAMP", "LOCALTIMESTAMP", "CURRENT_DATE", "CURRENT_TIME", "LOCALTIME");

    private static final CarriedComments.Room OF_TABLE = CarriedComments.Room.ofUtf16(2_048);
    private static final CarriedComments.Room OF_COLUMN = CarriedComments.Room.ofUtf16(1_024);

    MariaAdapting(MariaDialect dialect, LoadNotes notes) {
        super(dialect, notes);
    }

    @Override
    public TableDefinition adapt(TableDefinition table, Map<String, String> columnNames) {
        TableDefinition adapted = super.adapt(commented(table), columnNames);
        adapted.primaryKey().stream().flatMap(k -> k.columns().stream()).forEach(c -> {
            int beginning = KeyRoom.ofPrimary(adapted, c);
            if (beginning > 0) {
                notes().finding(
                                FindingCode.TYPE_CHANGED,
                                table.name(),
                                c,
                                "the primary key holds the first " + beginning
                                        + " of it, as many as there is room for; values stay whole");
            }
        });
        return isOwn(table)
                ? adapted
                : DefinitionRoom.fitted(RowRoom.fitted(adapted, c -> isIndexed(adapted, c), notes()), notes());
    }

    /** Of what it has no room for, it would refuse the whole table. */
    private TableDefinition commented(TableDefinition table) {
        CarriedComments comments = new CarriedComments(notes());
        TableDefinition kept = comments.carried(
                table,
                MariaAdapting::kept,
                MariaAdapting::kept,
                "characters of comments",
                "MariaDB keeps none in comments beyond Unicode's first plane, so each becomes a question mark");
        return comments.cut(
                kept, OF_TABLE, OF_COLUMN, "MariaDB has room for 2,048 characters on a table, and 1,024 on a column");
    }

    /** It keeps comments in three bytes a character, and would put a question mark in place of what needs four. */
    private static String kept(String comment) {
        StringBuilder kept = new StringBuilder();
        comment.codePoints().forEach(c -> kept.appendCodePoint(Character.isBmpCodePoint(c) ? c : '?'));
        return kept.toString();
    }

    @Override
    protected ColumnDefinition column(TableDefinition table, ColumnDefinition column) {
        LogicalType type = column.type();
        String sql = MariaTypes.sql(type);
        Optional<Integer> room = column.enumeration().isPresent() ? Optional.empty() : KeyRoom.ofKeys(table, column);
        if (room.isPresent()) {
            LogicalType shorter =
                    LogicalType.of(type.name().isText() ? TypeName.VARCHAR : TypeName.VARBINARY, room.get());
            notes().finding(
                            FindingCode.TYPE_CHANGED,
                            table.name(),
                            column.name(),
                            "MariaDB has no room for " + type + " in a key, so the column becomes " + shorter
                                    + ", and a longer value is refused");
            return counted(table, column.withType(shorter));
        }
        switch (type.name()) {
            case TIMESTAMP_WITH_TIME_ZONE ->
                notes().finding(
                                FindingCode.TYPE_CHANGED,
                                table.name(),
                                column.name(),
                                "MariaDB's TIMESTAMP ends in 2038, so instants are held as " + sql + ", in UTC");
            case UUID ->
                notes().finding(
                                FindingCode.TYPE_CHANGED,
                                table.name(),
                                column.name(),
                                "MariaDB's UUID refuses identifiers of unknown variants, so it is held as " + sql);
            case INTERVAL, XML, ARRAY ->
                notes().finding(
                                FindingCode.TYPE_CHANGED,
                                table.name(),
                                column.name(),
                                type + " is held as " + sql + ", which MariaDB has for it");
            case DECIMAL -> {
                if (!type.isSized() || type.size() > MariaTypes.MOST_DIGITS || type.scale() > MariaTypes.MOST_SCALE) {
                    notes().finding(
                                    FindingCode.TYPE_CHANGED,
                                    table.name(),
                                    column.name(),
                                    type + " is held as " + sql + "; MariaDB has no wider one");
                    return counted(table, column.withType(MariaTypes.widest(type)));
                }
            }
            default -> {
                if (type.name().isTimed() && type.size() > MariaTypes.FRACTION) {
                    notes().finding(
                                    FindingCode.VALUE_BY_VALUE,
                                    table.name(),
                                    column.name(),
                                    "MariaDB keeps 6 digits of a second's fraction, not " + type.size());
                }
            }
        }
        return counted(table, column);
    }

    private ColumnDefinition counted(TableDefinition table, ColumnDefinition column) {
        if (column.identity().isEmpty()) {
            return column;
        }
        boolean leads = table.primaryKey()
                        .filter(k -> k.columns().get(0).equals(column.name()))
                        .isPresent()
                || table.uniqueKeys().stream().anyMatch(k -> k.columns().get(0).equals(column.name()))
                || table.indexes().stream()
                        .anyMatch(i -> i.isPlain() && i.parts().get(0).column().equals(column.name()));
        if (!leads) {
            notes().leftBehind(
                            "identity",
                            table.name() + "." + column.name(),
                            "MariaDB counts only in the first column of a key or an index");
            return column.toBuilder().identity(Optional.empty()).build();
        }
        if (column.identity().get().always() || column.identity().get().increment() != 1) {
            notes().finding(
                            FindingCode.COUNTER_CHANGED,
                            table.name(),
                            column.name(),
                            "AUTO_INCREMENT goes up by 1 and lets an insert give a value of its own; at the source it is GENERATED "
                                    + (column.identity().get().always() ? "ALWAYS" : "BY DEFAULT") + ", increment "
                                    + column.identity().get().increment());
        }
        ColumnDefinition counting = column.toBuilder()
                .identity(Optional.of(
                        new Identity(false, 1, 1, column.identity().get().next())))
                .build();
        if (column.type().name() == TypeName.DECIMAL) {
            notes().finding(
                            FindingCode.COUNTER_CHANGED,
                            table.name(),
                            column.name(),
                            "MariaDB counts in whole numbers alone, so " + column.type() + " becomes BIGINT");
            return counting.withType(LogicalType.BIGINT);
        }
        return counting;
    }

    @Override
    protected Optional<ColumnDefault> expression(SqlText expression) {
        return TAKEN.contains(expression.sql())
                ? Optional.of(new ColumnDefault.Expression(expression))
                : Optional.empty();
    }

    @Override
    protected Optional<String> enumerationType(TableDefinition table, Enumeration enumeration) {
        return Optional.of("ENUM("
                + enumeration.values().stream().map(DefinitionSql::string).collect(Collectors.joining(",")) + ")");
    }

    @Override
    protected String ownType(TableDefinition table, ColumnDefinition column) {
        return column.enumeration()
                .flatMap(e -> enumerationType(table, e))
                .orElseGet(() -> super.ownType(table, column));
    }

    @Override
    protected int mostIndexes() {
        return MOST_INDEXES;
    }

    @Override
    protected int mostIndexedColumns() {
        return MOST_COLUMNS;
    }

    @Override
    protected boolean isNeverIndexed(ColumnDefinition held) {
        return NEVER_INDEXED.contains(held.sourceType());
    }

    @Override
    protected IndexDefinition indexed(TableDefinition table, IndexDefinition index) {
        IndexDefinition fitted = KeyRoom.fitted(table, index);
        for (int i = 0; i < fitted.parts().size(); i++) {
            if (!fitted.parts().get(i).equals(index.parts().get(i))) {
                notes().finding(
                                FindingCode.TYPE_CHANGED,
                                table.name(),
                                fitted.parts().get(i).column(),
                                "MariaDB's index " + index.shown() + " holds the first "
                                        + fitted.parts().get(i).prefix() + " of it; values stay whole");
            }
        }
        return fitted;
    }

    @Override
    protected Optional<String> uncheckable(TableDefinition table, Set<String> columns) {
        for (String name : columns) {
            if (table.column(name).filter(c -> c.identity().isPresent()).isPresent()) {
                return Optional.of("MariaDB takes no check of a column that counts");
            }
            for (ForeignKey key : table.foreignKeys()) {
                if (key.columns().contains(name)
                        && (key.onUpdate().isWriting() || key.onDelete().isReplacing())) {
                    return Optional.of("MariaDB takes no check of a column that a reference writes into");
                }
            }
        }
        return Optional.empty();
    }

    @Override
    protected boolean canComputeKeys() {
        return false;
    }

    /** MariaDB has neither partial indexes nor any by expressions. */
    @Override
    protected boolean canIndex(IndexDefinition index) {
        return false;
    }

    @Override
    public Optional<String> together(List<String> texts) {
        return Optional.of("CONCAT(" + String.join(", ", texts) + ")");
    }
}
