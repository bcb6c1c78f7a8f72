package org.orderlyferry.databases.oracle;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.databases.dialect.Adapting;
import org.orderlyferry.databases.dialect.CarriedComments;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.PlainColumns;
import org.orderlyferry.model.CheckConstraint;
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

/** Brings a definition to what Oracle can hold. */
final class OracleAdapting extends Adapting {

    /** Of a key or an index. */
    private static final int MOST_COLUMNS = 32;

    private static final Map<String, String> NOW = Map.of(
            "CURRENT_TIMESTAMP", "SYSTIMESTAMP",
            "LOCALTIMESTAMP", "LOCALTIMESTAMP",
            "CURRENT_DATE", "TRUNC(SYSDATE)");

    private static final CarriedComments.Room OF_COMMENT = CarriedComments.Room.ofUtf8(4_000);

    /** Its shell ends a line of input after 2,499. */
    private static final CarriedComments.Room OF_LINE = CarriedComments.Room.ofUtf8(2_000);

    private final boolean inScript;

    /**
     * For one load.
     *
     * @param inScript whether the definitions are those of a script, by whose end a counter may refuse its records' own values
     */
    OracleAdapting(OracleSql sql, LoadNotes notes, boolean inScript) {
        super(sql, notes);
        this.inScript = inScript;
    }

    @Override
    public TableDefinition adapt(TableDefinition table, Map<String, String> columnNames) {
        return possible(commented(table), columnNames);
    }

    private TableDefinition commented(TableDefinition table) {
        CarriedComments comments = new CarriedComments(notes());
        if (!inScript) {
            return comments.cut(table, OF_COMMENT, OF_COMMENT, "Oracle has room for 4,000 bytes in a comment");
        }
        TableDefinition lines = comments.blanked(
                table, "COMMENT takes no expression, and its shell ends statements by lines, so each becomes a blank");
        return comments.cut(lines, OF_LINE, OF_LINE, "COMMENT takes no expression, and its shell no longer line");
    }

    private TableDefinition possible(TableDefinition table, Map<String, String> columnNames) {
        if (isOwn(table)) {
            return super.adapt(
                    table.toBuilder()
                            .columns(table.columns().stream()
                                    .map(c -> givingWay(table, c))
                                    .toList())
                            .build(),
                    columnNames);
        }
        TableDefinition possible = table.toBuilder()
                .columns(new PlainColumns(OracleSql.SYSTEM, notes()).of(table))
                .uniqueKeys(differentKeys(table))
                .build();
        TableDefinition adapted = super.adapt(possible, columnNames);
        List<CheckConstraint> checks = new ArrayList<>(adapted.checks());
        table.columns().stream()
                .filter(c -> c.type().name() == TypeName.BOOLEAN)
                .forEach(c -> checks.add(new CheckConstraint("", quote(c.name()) + " IN (0, 1)", OracleSql.SYSTEM)));
        return adapted.toBuilder().checks(checks).build();
    }

    /** A second key of the same columns is refused there. */
    private List<Key> differentKeys(TableDefinition table) {
        Set<List<String>> seen = new HashSet<>();
        table.primaryKey().ifPresent(k -> seen.add(k.columns()));
        List<Key> different = new ArrayList<>();
        for (Key key : table.uniqueKeys()) {
            if (seen.add(key.columns())) {
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

    /** Error 1408; what a key has is an index of it. */
    @Override
    protected boolean canIndexTwice() {
        return false;
    }

    @Override
    protected ColumnDefinition column(TableDefinition table, ColumnDefinition column) {
        ColumnDefinition held = counted(table, column);
        LogicalType type = held.type();
        String own = OracleTypes.sql(type);
        if (isIndexed(table, column.name()) && (own.equals("CLOB") || own.equals("BLOB"))) {
            LogicalType key = own.equals("CLOB")
                    ? LogicalType.varchar(OracleTypes.KEY_TEXT)
                    : LogicalType.of(TypeName.VARBINARY, OracleTypes.LONGEST_BYTES);
            changed(
                    table,
                    column,
                    "Oracle can't index " + own + ", so the column becomes " + OracleTypes.sql(key)
                            + ", and a longer value is refused");
            return held.withType(key);
        }
        switch (type.name()) {
            case BOOLEAN -> changed(table, column, "truth values are held as " + own + ": 1 and 0");
            case TIME, INTERVAL, UUID, JSON, XML, ARRAY ->
                changed(table, column, type + " is held as " + own + ", which Oracle has for it");
            case DATE -> changed(table, column, "a DATE there has a time of day, which is midnight");
            case DECIMAL -> {
                if (own.equals("NUMBER")) {
                    changed(table, column, type + " is held as NUMBER, which has 38 digits");
                }
            }
            default -> {
                // the same type is there
            }
        }
        return held;
    }

    private void changed(TableDefinition table, ColumnDefinition column, String text) {
        notes().finding(FindingCode.TYPE_CHANGED, table.name(), column.name(), text);
    }

    private ColumnDefinition counted(TableDefinition table, ColumnDefinition column) {
        Identity identity = column.identity().orElse(null);
        if (identity == null || column.type().name().isExactNumber()) {
            return givingWay(table, column);
        }
        notes().leftBehind(
                        "identity",
                        table.name() + "." + column.name(),
                        "Oracle counts in numbers alone, and not in " + column.type());
        return column.toBuilder().identity(Optional.empty()).build();
    }

    private ColumnDefinition givingWay(TableDefinition table, ColumnDefinition column) {
        Identity identity = column.identity().orElse(null);
        if (inScript || identity == null || !identity.always()) {
            return column;
        }
        notes().finding(
                        FindingCode.COUNTER_CHANGED,
                        table.name(),
                        column.name(),
                        "it counts where no value is given, so that later loads can bring theirs; at the source it is"
                                + " GENERATED ALWAYS");
        return column.toBuilder()
                .identity(Optional.of(new Identity(false, identity.start(), identity.increment(), identity.next())))
                .build();
    }

    @Override
    protected Optional<ColumnDefault> expression(SqlText expression) {
        return Optional.ofNullable(NOW.get(expression.sql()))
                .map(sql -> new ColumnDefault.Expression(sql, OracleSql.SYSTEM));
    }

    /** Truth values are numbers there, and times of day are texts. */
    @Override
    protected boolean canCompute(ColumnDefinition column) {
        return switch (column.type().name()) {
            case BOOLEAN, TIME, JSON, XML, CLOB, ARRAY, INTERVAL -> false;
            default -> true;
        };
    }

    @Override
    public boolean hasTruth() {
        return false;
    }

    /** It has indexes by expressions, and none of some records only. */
    @Override
    protected boolean canIndex(IndexDefinition index) {
        return index.predicate().isEmpty() && index.parts().stream().allMatch(p -> p.prefix() == 0);
    }

    @Override
    protected int mostIndexedColumns() {
        return MOST_COLUMNS;
    }

    @Override
    protected boolean isNeverIndexed(ColumnDefinition held) {
        return List.of("CLOB", "NCLOB", "BLOB", "LONG", "LONG RAW", "JSON", "XMLTYPE")
                .contains(held.sourceType());
    }

    @Override
    protected boolean canDefer() {
        return true;
    }

    @Override
    public String literal(String text) {
        return OracleScripting.string(text, false);
    }

    @Override
    public String lengthFunction() {
        return "LENGTH";
    }

    @Override
    public String bytes(String hexadecimal) {
        return "HEXTORAW('" + hexadecimal + "')";
    }

    /** A null is an empty text to it. */
    @Override
    public Optional<String> together(List<String> texts) {
        return Optional.empty();
    }
}
