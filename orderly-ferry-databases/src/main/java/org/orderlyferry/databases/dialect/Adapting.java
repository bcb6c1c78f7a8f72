package org.orderlyferry.databases.dialect;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.orderlyferry.databases.sql.ExpressionWriter;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Deferrability;
import org.orderlyferry.model.Enumeration;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.GenerationRule;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;

/**
 * Brings a definition to what a system can hold. What is common to all systems is here. A definition is data, whoever
 * wrote it: expressions are read into a closed language and written anew, types and collations come from the dialect's
 * tables, constants are values of their type. What is of the same system is kept so far as that goes; expressions of
 * another one are carried where they mean the same. All else is left behind by name. One instance serves one load.
 */
public abstract class Adapting implements ExpressionWriter.Target {

    private final SystemSql dialect;
    private final LoadNotes notes;
    private boolean trusting;
    private FurtherTypes further = FurtherTypes.NONE;

    protected Adapting(SystemSql dialect, LoadNotes notes) {
        this.dialect = dialect;
        this.notes = notes;
    }

    /**
     * Takes texts of the same system as they are where they go beyond the closed language: a person has said that the
     * definitions are to be trusted. A text of several statements is refused all the same.
     */
    public final Adapting trusting(boolean value) {
        trusting = value;
        return this;
    }

    /** Takes types of extensions, where tables of the same system have them, for those that the target has, too. */
    public final Adapting knowing(FurtherTypes types) {
        further = types;
        return this;
    }

    /** A type of the same system as it is written here; empty where it isn't one that is known here. */
    public final Optional<String> held(String sourceType) {
        return dialect.types().held(sourceType).or(() -> further.held(sourceType));
    }

    protected final LoadNotes notes() {
        return notes;
    }

    protected final boolean isOwn(TableDefinition table) {
        return table.system().equals(dialect.system());
    }

    /**
     * A column as the system holds it, apart from expressions; what is special about its type or identity is noted. Not
     * asked for columns of the same system.
     */
    protected abstract ColumnDefinition column(TableDefinition table, ColumnDefinition column);

    /** The type as it stands in CREATE TABLE, for a column of the same system. */
    protected String ownType(TableDefinition table, ColumnDefinition column) {
        String own = dialect.types().own(column.type());
        if (column.sourceType().isEmpty()) {
            return own;
        }
        return held(column.sourceType())
                .or(() -> carrying().trusted(new SqlText(column.sourceType(), dialect.system()), table, column.name()))
                .orElseGet(() -> {
                    notes.finding(
                            FindingCode.TYPE_CHANGED,
                            table.name(),
                            column.name(),
                            "its type " + column.sourceType() + " isn't one of " + dialect.system()
                                    + "'s own; the column becomes " + own);
                    return own;
                });
    }

    /** An expression that every system takes, as this one does it; nothing where it has another meaning here. */
    protected abstract Optional<ColumnDefault> expression(SqlText expression);

    /** Whether the system has an index's kind of parts, as an expression of its own could say them. */
    protected abstract boolean canIndex(IndexDefinition index);

    /** Whether what is computed is made as something that is stored, whatever it was. */
    protected boolean storesComputed() {
        return false;
    }

    /** Whether the system can compute with a column's values as with what they are. */
    protected boolean canCompute(ColumnDefinition column) {
        return true;
    }

    /** Whether the system can compute what a key holds, rather than take it as it is. */
    protected boolean canComputeKeys() {
        return true;
    }

    private boolean staysComputed(TableDefinition table, String column) {
        return (canComputeKeys()
                        || table.primaryKey()
                                .filter(k -> k.columns().contains(column))
                                .isEmpty())
                && table.foreignKeys().stream()
                        .noneMatch(k -> k.columns().contains(column)
                                && (k.onUpdate().isWriting() || k.onDelete().isReplacing()));
    }

    /** The type of a column whose texts are of an enumeration; without one it becomes a text with a check. */
    protected Optional<String> enumerationType(TableDefinition table, Enumeration enumeration) {
        return Optional.empty();
    }

    /** Whether a column, as the system holds it, can be part of no key and no index. */
    protected boolean isNeverIndexed(ColumnDefinition held) {
        return false;
    }

    /** Whether a table may have a second index of the same columns, or one of those of a key. */
    protected boolean canIndexTwice() {
        return true;
    }

    /** How many columns a key or an index can be of; 0 for as many as there are. */
    protected int mostIndexedColumns() {
        return 0;
    }

    /** How many keys and indexes a table can have, references among them; 0 for as many as one likes. */
    protected int mostIndexes() {
        return 0;
    }

    /** An index as the system can make it, of a table as it will hold it. */
    protected IndexDefinition indexed(TableDefinition table, IndexDefinition index) {
        return index;
    }

    /** Why the system takes no check of these columns, and computes nothing from them, as a sentence; empty where it does. */
    protected Optional<String> uncheckable(TableDefinition table, Set<String> columns) {
        return Optional.empty();
    }

    /** Whether references can wait for the transaction's end. */
    protected boolean canDefer() {
        return false;
    }

    /** A table without its comments, which are left behind by name. */
    protected final TableDefinition withoutComments(TableDefinition table, String reason) {
        boolean any = !table.comment().isEmpty()
                || table.columns().stream().anyMatch(c -> !c.comment().isEmpty());
        if (any) {
            notes.leftBehind("comments", table.name().toString(), reason);
        }
        return table.toBuilder()
                .comment("")
                .columns(table.columns().stream()
                        .map(c -> c.toBuilder().comment("").build())
                        .toList())
                .build();
    }

    /** Whether a column is part of a key, a reference or an index. */
    protected static boolean isIndexed(TableDefinition table, String column) {
        return table.primaryKey().filter(k -> k.columns().contains(column)).isPresent()
                || table.uniqueKeys().stream().anyMatch(k -> k.columns().contains(column))
                || table.foreignKeys().stream().anyMatch(k -> k.columns().contains(column))
                || table.indexes().stream().anyMatch(i -> i.parts().stream()
                        .anyMatch(p -> p.column().equals(column)));
    }

    /**
     * Adapts a whole table.
     *
     * @param given under the names that it will have
     * @param columnNames the columns' new names by those that expressions of the source use
     */
    public TableDefinition adapt(TableDefinition given, Map<String, String> columnNames) {
        TableDefinition table = isOwn(given) ? given : withActions(given);
        List<ColumnDefinition> columns = new ArrayList<>();
        List<CheckConstraint> checks = new ArrayList<>();
        CarriedDefaults defaults = new CarriedDefaults(this, carrying(), notes);
        for (ColumnDefinition column : table.columns()) {
            ColumnDefinition held = enumerated(table, column, checks);
            String own;
            if (isOwn(table)) {
                own = ownType(table, held);
            } else {
                held = column(table, PlainSize.of(table, held, notes));
                LogicalType type = held.type();
                own = held.enumeration().flatMap(e -> enumerationType(table, e)).orElseGet(() -> dialect.types()
                        .own(type));
            }
            columns.add(held.toBuilder()
                    .defaultValue(defaults.of(table, held))
                    .generation(generation(table, held, columnNames))
                    .collation(isOwn(table) ? ownCollation(table, held) : "")
                    .sourceType(own)
                    .build());
        }
        if (!isOwn(table)) {
            collations(table);
        }
        for (CheckConstraint check : table.checks()) {
            check(table, check, columnNames).ifPresent(checks::add);
        }
        List<IndexDefinition> indexes = new ArrayList<>();
        CarriedIndexes carried = new CarriedIndexes(this, carrying(), notes);
        for (IndexDefinition index : table.indexes()) {
            carried.index(table, index, columnNames).ifPresent(indexes::add);
        }
        TableDefinition adapted = table.toBuilder()
                .columns(columns)
                .checks(checks)
                .indexes(indexes)
                .foreignKeys(table.foreignKeys().stream()
                        .map(k -> reference(table, k))
                        .toList())
                .system(dialect.system())
                .build();
        return isOwn(table) ? adapted : PossibleKeys.of(adapted, this, notes);
    }

    /** Whether a primary key holds nulls, which ISO/IEC 9075-2 has never. */
    protected boolean canKeysBeNull() {
        return false;
    }

    private TableDefinition withActions(TableDefinition table) {
        CarriedActions actions = new CarriedActions(dialect.defining().references(), dialect.system(), notes);
        return table.toBuilder()
                .foreignKeys(table.foreignKeys().stream()
                        .map(k -> actions.of(table, k))
                        .toList())
                .build();
    }

    private CarriedSql carrying() {
        return new CarriedSql(this, dialect, notes, trusting);
    }

    private ColumnDefinition enumerated(TableDefinition table, ColumnDefinition column, List<CheckConstraint> checks) {
        if (column.enumeration().isEmpty()
                || enumerationType(table, column.enumeration().get()).isPresent()) {
            return column;
        }
        List<String> values = column.enumeration().get().values();
        List<String> quoted = values.stream().map(this::literal).toList();
        checks.add(new CheckConstraint(
                "", quote(column.name()) + " IN (" + String.join(", ", quoted) + ")", dialect.system()));
        notes.finding(
                FindingCode.TYPE_CHANGED,
                table.name(),
                column.name(),
                "an enumeration becomes text with a check; it no longer sorts in the order of its values");
        return column.toBuilder()
                .enumeration(Optional.empty())
                .sourceType("")
                .build()
                .withType(LogicalType.varchar(column.enumeration().get().longest()));
    }

    /** Says once for each collation which columns lose it: a whole table may have the same. */
    private void collations(TableDefinition table) {
        Map<String, List<String>> columns = new TreeMap<>();
        table.columns().stream().filter(c -> !c.collation().isEmpty()).forEach(c -> columns.computeIfAbsent(
                        c.collation(), n -> new ArrayList<>())
                .add(c.name()));
        columns.forEach((collation, names) -> notes.finding(
                FindingCode.COLLATION_CHANGED,
                table.name(),
                String.join(", ", names),
                table.system() + " compares by " + collation
                        + "; here texts are compared as the system does by default"));
    }

    private String ownCollation(TableDefinition table, ColumnDefinition column) {
        if (column.collation().isEmpty()) {
            return "";
        }
        return dialect.collation(column.collation())
                .or(() -> carrying().trusted(new SqlText(column.collation(), dialect.system()), table, column.name()))
                .orElseGet(() -> {
                    notes.leftBehind(
                            "collation",
                            table.name() + "." + column.name(),
                            "it isn't one of " + dialect.system() + "'s own: " + column.collation());
                    return "";
                });
    }

    private Optional<CheckConstraint> check(
            TableDefinition table, CheckConstraint check, Map<String, String> columnNames) {
        Optional<String> sql = carrying().carried(table, check.condition(), columnNames);
        Optional<String> reason = sql.isEmpty()
                ? Optional.of("its expression is " + check.system() + "'s own")
                : isOwn(table)
                        ? Optional.empty()
                        : uncheckable(table, carrying().columns(table, check.condition(), columnNames));
        reason.ifPresent(r -> notes.leftBehind(
                "check",
                table.name() + (check.name().isEmpty() ? "" : "." + check.name()),
                r + ": " + check.expression()));
        return sql.filter(text -> reason.isEmpty())
                .map(text -> new CheckConstraint(check.name(), text, dialect.system()));
    }

    private Optional<GenerationRule> generation(
            TableDefinition table, ColumnDefinition column, Map<String, String> columnNames) {
        if (column.generation().isEmpty()) {
            return Optional.empty();
        }
        SqlText expression = column.generation().get().expression();
        Optional<String> sql = isOwn(table)
                        || staysComputed(table, column.name())
                                && uncheckable(table, carrying().columns(table, expression, columnNames))
                                        .isEmpty()
                ? carrying().carried(table, expression, columnNames)
                : Optional.empty();
        if (sql.isEmpty()) {
            notes.leftBehind(
                    "generation rule",
                    table.name() + "." + column.name(),
                    "the column arrives with its values, but without its rule: " + expression.sql());
        }
        boolean stored = column.generation().get().stored();
        if (sql.isPresent() && isOwn(table) && !stored && storesComputed()) {
            notes.leftBehind(
                    "virtual column",
                    table.name() + "." + column.name(),
                    "it comes as one whose values are stored, since older servers have no others");
        }
        return sql.map(text -> new GenerationRule(new SqlText(text, dialect.system()), stored || storesComputed()));
    }

    private ForeignKey reference(TableDefinition table, ForeignKey key) {
        if (key.deferrability() == Deferrability.NOT_DEFERRABLE || canDefer()) {
            return key;
        }
        notes.finding(
                FindingCode.REFERENCE_AT_ONCE,
                table.name(),
                String.join("+", key.columns()),
                "the reference to " + key.target() + " could wait for the end of a transaction; " + dialect.system()
                        + " checks it at once");
        return new ForeignKey(
                key.name(), key.columns(), key.target(), key.targetColumns(), key.onUpdate(), key.onDelete());
    }

    @Override
    public final String quote(String name) {
        return dialect.quote(name);
    }

    @Override
    public String literal(String text) {
        return DefinitionSql.string(text);
    }

    @Override
    public String lengthFunction() {
        return "CHAR_LENGTH";
    }

    @Override
    public String typedLiteral(String type, String quoted) {
        return type + " " + quoted;
    }
}
