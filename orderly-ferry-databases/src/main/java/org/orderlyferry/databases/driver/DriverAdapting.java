package org.orderlyferry.databases.driver;

import java.sql.Types;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.databases.dialect.Adapting;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.UsageException;

/** Brings a definition to what a driver says that its system can hold. */
final class DriverAdapting extends Adapting {

    /** How many columns an index of Derby has at most. */
    private static final int OF_DERBY = 16;

    /** How long a text is that has to be part of a key, and has no length at its source. */
    private static final int KEY_TEXT = 1_000;

    private final DriverDialect dialect;

    DriverAdapting(DriverDialect dialect, LoadNotes notes) {
        super(dialect, notes);
        this.dialect = dialect;
    }

    /** COMMENT ON isn't ISO SQL, and a driver doesn't tell whether it is there. */
    @Override
    public TableDefinition adapt(TableDefinition table, Map<String, String> columnNames) {
        TableDefinition bare = withoutComments(table, "it isn't known how " + dialect.system() + " has them");
        return super.adapt(bare.toBuilder().uniqueKeys(differentKeys(table)).build(), columnNames);
    }

    /** Most systems refuse a second key of the same columns. */
    private List<Key> differentKeys(TableDefinition table) {
        Set<Set<String>> seen = new HashSet<>();
        table.primaryKey().ifPresent(k -> seen.add(Set.copyOf(k.columns())));
        List<Key> different = new ArrayList<>();
        for (Key key : table.uniqueKeys()) {
            if (seen.add(Set.copyOf(key.columns()))) {
                different.add(key);
            } else {
                notes().leftBehind(
                                "unique key",
                                table.name() + "." + key.shown(),
                                "another key of the same columns says it");
            }
        }
        return different;
    }

    /** Where a second one is but a warning, nothing tells later that it isn't there. */
    @Override
    protected boolean canIndexTwice() {
        return !dialect.keepsToRulesOfDb2();
    }

    @Override
    protected ColumnDefinition column(TableDefinition table, ColumnDefinition column) {
        ColumnDefinition held = counted(table, column);
        if (isLargeText(column.type()) && isIndexed(table, column.name())) {
            held = held.withType(LogicalType.varchar(KEY_TEXT));
        }
        LogicalType wanted = held.type();
        String own = dialect.driverTypes()
                .holding(wanted)
                .orElseThrow(() ->
                        new UsageException("the driver of " + dialect.system() + " tells of no type for " + table.name()
                                + "." + column.name() + ", which is " + wanted + "; nothing can be loaded there"));
        LogicalType becomes = dialect.types().logical(own);
        boolean other = becomes.name() != wanted.name() && !isAlike(wanted.name(), becomes.name());
        if (other || !held.type().equals(column.type())) {
            notes().finding(
                            FindingCode.TYPE_CHANGED,
                            table.name(),
                            column.name(),
                            column.type() + " is held as " + own + ", which " + dialect.system() + " has for it");
        }
        return other && isHeldOtherwise(wanted, becomes)
                ? otherwise(table, held, becomes)
                : withoutLargeDefault(table, held, becomes);
    }

    private ColumnDefinition withoutLargeDefault(TableDefinition table, ColumnDefinition column, LogicalType becomes) {
        if (column.defaultValue().isEmpty() || becomes.name() != TypeName.BLOB || !dialect.keepsToRulesOfDb2()) {
            return column;
        }
        notes().leftBehind(
                        "default",
                        table.name() + "." + column.name(),
                        dialect.system() + " has none for a large object of bytes");
        return column.toBuilder().defaultValue(Optional.empty()).build();
    }

    /** As another type, of which an expression wouldn't be a value. */
    private ColumnDefinition otherwise(TableDefinition table, ColumnDefinition column, LogicalType becomes) {
        if (column.defaultValue().orElse(null) instanceof ColumnDefault.Expression expression) {
            notes().leftBehind(
                            "default",
                            table.name() + "." + column.name(),
                            "the column is held as " + becomes + ", and it is none: " + expression.sql());
            return column.toBuilder().defaultValue(Optional.empty()).build().withType(becomes);
        }
        return column.withType(becomes);
    }

    private ColumnDefinition counted(TableDefinition table, ColumnDefinition column) {
        Identity identity = column.identity().orElse(null);
        if (identity != null
                && (!column.type().name().isExactNumber() || column.type().name() == TypeName.DECIMAL)) {
            notes().leftBehind(
                            "identity",
                            table.name() + "." + column.name(),
                            "not every system counts in " + column.type() + ", and it isn't known whether "
                                    + dialect.system() + " does");
            return column.toBuilder().identity(Optional.empty()).build();
        }
        Optional<String> before = table.columns().stream()
                .filter(c -> c.identity().isPresent())
                .map(ColumnDefinition::name)
                .findFirst()
                .filter(first -> identity != null && !first.equals(column.name()));
        if (before.isPresent()) {
            notes().leftBehind(
                            "identity",
                            table.name() + "." + column.name(),
                            "most systems count in one column of a table, and " + before.get() + " is one already");
            return column.toBuilder().identity(Optional.empty()).build();
        }
        if (identity == null || !identity.always()) {
            return column;
        }
        notes().finding(
                        FindingCode.COUNTER_CHANGED,
                        table.name(),
                        column.name(),
                        "its counter lets an insert give a value of its own; at the source it is GENERATED ALWAYS");
        return column.toBuilder()
                .identity(Optional.of(new Identity(false, identity.start(), identity.increment(), identity.next())))
                .build();
    }

    /** Whether values go to the system as those of another type, rather than as texts that stay what they are. */
    private static boolean isHeldOtherwise(LogicalType wanted, LogicalType becomes) {
        return !becomes.name().isText() || wanted.name() == TypeName.DECIMAL || DriverCells.isTimed(wanted.name());
    }

    private static boolean isLargeText(LogicalType type) {
        return type.name() == TypeName.CLOB || type.name() == TypeName.VARCHAR && !type.isSized();
    }

    private static boolean isAlike(TypeName one, TypeName other) {
        return one.isText() && other.isText() || one.isBinary() && other.isBinary();
    }

    @Override
    protected Optional<ColumnDefault> expression(SqlText expression) {
        return expression.sql().equals("LOCALTIME") || expression.sql().equals("LOCALTIMESTAMP")
                ? Optional.empty()
                : Optional.of(new ColumnDefault.Expression(expression));
    }

    /** What is held as something else is no value of its type, and few systems compare large objects. */
    @Override
    protected boolean canCompute(ColumnDefinition column) {
        TypeName wanted = column.type().name();
        return dialect.driverTypes()
                .holding(column.type())
                .map(own -> dialect.types().logical(own).name())
                .filter(held -> held == wanted || isAlike(wanted, held))
                .filter(held -> held != TypeName.CLOB && held != TypeName.BLOB
                        || dialect.trial().differing().containsKey(held))
                .isPresent();
    }

    /** There ISO SQL's literals of dates and times are functions of texts. */
    @Override
    public String typedLiteral(String type, String quoted) {
        return dialect.keepsToRulesOfDb2() ? type + "(" + quoted + ")" : super.typedLiteral(type, quoted);
    }

    @Override
    public String lengthFunction() {
        return dialect.keepsToRulesOfDb2() ? "LENGTH" : super.lengthFunction();
    }

    /** An index by expressions, or of some records only, is in no standard. */
    @Override
    protected boolean canIndex(IndexDefinition index) {
        return false;
    }

    @Override
    protected int mostIndexedColumns() {
        return dialect.system().equals("Apache Derby") ? OF_DERBY : 0;
    }

    @Override
    protected boolean isNeverIndexed(ColumnDefinition held) {
        TypeName type = held.type().name();
        return type == TypeName.CLOB
                || type == TypeName.BLOB
                || dialect.traits().types().stream()
                        .filter(t -> t.code() == Types.CLOB || t.code() == Types.BLOB || t.code() == Types.LONGVARCHAR)
                        .anyMatch(t -> held.sourceType().equals(t.bare()));
    }
}
