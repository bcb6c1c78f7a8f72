package org.orderlyferry.databases.sqlserver;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.databases.dialect.Adapting;
import org.orderlyferry.databases.dialect.CarriedComments;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.PlainColumns;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;

/** Brings a definition to what SQL Server can hold. */
final class SqlServerAdapting extends Adapting {

    /** Of a key or an index. */
    private static final int MOST_COLUMNS = 32;

    private static final Map<String, String> NOW = Map.of(
            "CURRENT_TIMESTAMP", "sysdatetimeoffset()",
            "LOCALTIMESTAMP", "sysdatetime()",
            "CURRENT_DATE", "CAST(sysdatetime() AS date)",
            "LOCALTIME", "CAST(sysdatetime() AS time)",
            "CURRENT_TIME", "CAST(sysdatetime() AS time)");

    private static final CarriedComments.Room OF_COMMENT = CarriedComments.Room.ofUtf16(3_750);

    private final boolean inScript;

    /**
     * For one load.
     *
     * @param inScript whether the definitions are those of a script
     */
    SqlServerAdapting(SqlServerSql sql, LoadNotes notes, boolean inScript) {
        super(sql, notes);
        this.inScript = inScript;
    }

    @Override
    public TableDefinition adapt(TableDefinition table, Map<String, String> columnNames) {
        return possible(commented(table), columnNames);
    }

    private TableDefinition commented(TableDefinition table) {
        CarriedComments comments = new CarriedComments(notes());
        TableDefinition cut =
                comments.cut(table, OF_COMMENT, OF_COMMENT, "SQL Server has room for 7,500 bytes in a comment");
        return inScript
                ? comments.blanked(
                        comments.carried(
                                cut,
                                SqlServerAdapting::apart,
                                SqlServerAdapting::apart,
                                "characters of comments",
                                "$( is a variable of its shell's, so a blank parts them"),
                        "a procedure takes no expression, and its shell ends statements by lines, so each becomes a blank")
                : cut;
    }

    private static String apart(String comment) {
        return comment.replace(SqlServerScripting.VARIABLE, "$ (");
    }

    private TableDefinition possible(TableDefinition table, Map<String, String> columnNames) {
        TableDefinition possible = isOwn(table)
                ? table
                : table.toBuilder()
                        .columns(new PlainColumns(SqlServerSql.SYSTEM, notes()).of(table))
                        .build();
        return super.adapt(possible, columnNames);
    }

    @Override
    protected ColumnDefinition column(TableDefinition table, ColumnDefinition column) {
        ColumnDefinition held = counted(table, column);
        LogicalType type = held.type();
        if (isIndexed(table, column.name())) {
            Optional<LogicalType> key = keyType(type);
            if (key.isPresent()) {
                changed(
                        table,
                        column,
                        "SQL Server has no room for " + type + " in a key, so the column becomes "
                                + SqlServerTypes.sql(key.get()) + ", and a longer value is refused");
                return held.withType(key.get());
            }
        }
        String own = SqlServerTypes.sql(type);
        switch (type.name()) {
            case DECIMAL -> {
                if (!SqlServerTypes.widest(type).equals(type)) {
                    changed(table, column, type + " is held as " + own + "; SQL Server has no wider one");
                    return held.withType(SqlServerTypes.widest(type));
                }
            }
            case INTERVAL, XML, ARRAY, JSON ->
                changed(table, column, type + " is held as " + own + ", which SQL Server has for it");
            default -> {
                if (type.name().isTimed() && type.size() > SqlServerTypes.FRACTION) {
                    notes().finding(
                                    FindingCode.VALUE_BY_VALUE,
                                    table.name(),
                                    column.name(),
                                    "SQL Server keeps 7 digits of a second's fraction, not " + type.size());
                }
            }
        }
        return held;
    }

    private void changed(TableDefinition table, ColumnDefinition column, String text) {
        notes().finding(FindingCode.TYPE_CHANGED, table.name(), column.name(), text);
    }

    /** The type of a column that a key holds, where its own would be too long for one. */
    private static Optional<LogicalType> keyType(LogicalType type) {
        boolean text = type.name().isText() || type.name() == TypeName.JSON || type.name() == TypeName.XML;
        boolean longText = text && (!type.isSized() || type.size() > SqlServerTypes.KEY_TEXT);
        boolean longBytes = type.name().isBinary() && (!type.isSized() || type.size() > SqlServerTypes.KEY_BYTES);
        return longText
                ? Optional.of(LogicalType.varchar(SqlServerTypes.KEY_TEXT))
                : longBytes
                        ? Optional.of(LogicalType.of(TypeName.VARBINARY, SqlServerTypes.KEY_BYTES))
                        : Optional.empty();
    }

    private ColumnDefinition counted(TableDefinition table, ColumnDefinition column) {
        Identity identity = column.identity().orElse(null);
        if (identity == null) {
            return column;
        }
        if (column.type().name() == TypeName.DECIMAL && column.type().scale() > 0
                || !column.type().name().isExactNumber()) {
            notes().leftBehind(
                            "identity",
                            table.name() + "." + column.name(),
                            "SQL Server counts in whole numbers alone, and not in " + column.type());
            return column.toBuilder().identity(Optional.empty()).build();
        }
        if (!identity.always()) {
            notes().finding(
                            FindingCode.COUNTER_CHANGED,
                            table.name(),
                            column.name(),
                            "an insert gives a value of its own only where IDENTITY_INSERT is on; at the source it may");
        }
        return column;
    }

    @Override
    protected Optional<ColumnDefault> expression(SqlText expression) {
        return Optional.ofNullable(NOW.get(expression.sql()))
                .map(sql -> new ColumnDefault.Expression(sql, SqlServerSql.SYSTEM));
    }

    /** A bit is no truth value there. */
    @Override
    protected boolean canCompute(ColumnDefinition column) {
        return column.type().name() != TypeName.BOOLEAN;
    }

    @Override
    public boolean hasTruth() {
        return false;
    }

    /** An index has no expressions there, but it can hold some records only. */
    @Override
    protected boolean canIndex(IndexDefinition index) {
        return index.parts().stream().allMatch(p -> p.expression().isEmpty() && p.prefix() == 0);
    }

    @Override
    protected int mostIndexedColumns() {
        return MOST_COLUMNS;
    }

    @Override
    protected boolean isNeverIndexed(ColumnDefinition held) {
        String own = held.sourceType();
        return own.endsWith("(max)")
                || own.equals("xml")
                || own.equals("text")
                || own.equals("ntext")
                || own.equals("image");
    }

    @Override
    public String literal(String text) {
        return SqlServerScripting.string(text);
    }

    /** LEN passes over blanks at the end. */
    @Override
    public String length(String text) {
        return "(LEN(" + text + " + N'.') - 1)";
    }

    @Override
    public String typedLiteral(String type, String quoted) {
        return "CAST(" + quoted + " AS "
                + (type.equals("TIMESTAMP") ? "datetime2" : type.toLowerCase(java.util.Locale.ROOT)) + ")";
    }

    @Override
    public String bytes(String hexadecimal) {
        return "0x" + hexadecimal;
    }

    /** It joins by a plus, which joins numbers otherwise. */
    @Override
    public Optional<String> together(List<String> texts) {
        return Optional.empty();
    }
}
