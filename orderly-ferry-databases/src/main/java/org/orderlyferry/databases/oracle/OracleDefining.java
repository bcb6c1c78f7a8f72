package org.orderlyferry.databases.oracle;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Base64;
import java.util.EnumSet;
import java.util.List;
import org.orderlyferry.databases.dialect.Adapting;
import org.orderlyferry.databases.dialect.Defining;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.ReferenceFit;
import org.orderlyferry.databases.dialect.ReferenceRules;
import org.orderlyferry.databases.dialect.ValueLimit;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.text.InvalidValueException;

/** How tables are defined in Oracle. */
final class OracleDefining implements Defining {

    private final OracleSql system;
    private final DefinitionSql sql;

    OracleDefining(OracleSql system) {
        this.system = system;
        this.sql = new DefinitionSql(system);
    }

    @Override
    public Adapting adapting(LoadNotes notes) {
        return new OracleAdapting(system, notes, true);
    }

    @Override
    public ValueLimit limit(TableName table, ColumnDefinition column, LoadNotes notes) {
        String name = OracleSql.SYSTEM;
        LogicalType type = column.type();
        return switch (type.name()) {
            case REAL, DOUBLE -> ValueLimit.unsignedZero(table, column.name(), name, notes);
            case DECIMAL -> type.isSized() ? ValueLimit.NONE : OracleDefining::checkDigits;
            case DATE -> ValueLimit.years("the dates that are written for " + name);
            case TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE ->
                ValueLimit.years("the dates that are written for " + name)
                        .and(ValueLimit.fraction(OracleTypes.FRACTION, name));
            case CHARACTER, VARCHAR, CLOB -> {
                boolean bounded = type.isSized() && type.size() <= OracleTypes.LONGEST_TEXT;
                ValueLimit empty = OracleDefining::checkEmpty;
                yield bounded ? empty.and(OracleDefining::checkBytes) : empty;
            }
            default -> ValueLimit.NONE;
        };
    }

    private static void checkEmpty(Records batch, int row, int column) throws InvalidValueException {
        if (batch.start(row, column) == batch.end(row, column)) {
            throw new InvalidValueException("is an empty text, which Oracle holds as null");
        }
    }

    private static void checkBytes(Records batch, int row, int column) throws InvalidValueException {
        int bytes = batch.end(row, column) - batch.start(row, column);
        if (bytes > OracleTypes.LONGEST_TEXT) {
            throw new InvalidValueException("has " + bytes + " bytes, of which a VARCHAR2 holds 4000");
        }
    }

    private static void checkDigits(Records batch, int row, int column) throws InvalidValueException {
        String digits = batch.text(row, column)
                .replaceAll("[-.]", "")
                .replaceFirst("^0+", "")
                .replaceFirst("0+$", "");
        if (digits.length() > OracleTypes.MOST_DIGITS) {
            throw new InvalidValueException("has " + digits.length() + " digits, of which Oracle keeps 38");
        }
    }

    /** No record follows a key that is changed, and none gets its default. */
    @Override
    public ReferenceRules references() {
        return new ReferenceRules(
                EnumSet.of(ReferentialAction.NO_ACTION),
                EnumSet.of(ReferentialAction.NO_ACTION, ReferentialAction.CASCADE, ReferentialAction.SET_NULL),
                false,
                ReferenceRules.Paths.ANY,
                ReferenceRules.Referred.KEYS);
    }

    @Override
    public boolean canRefer(ColumnDefinition mine, ColumnDefinition its) {
        return ReferenceFit.isSame(mine, its);
    }

    @Override
    public List<String> createStatements(TableDefinition table) {
        List<String> parts = new ArrayList<>();
        table.columns().forEach(c -> parts.add(column(c)));
        table.primaryKey().ifPresent(key -> parts.add(sql.primaryKey(key)));
        List<String> statements = new ArrayList<>();
        statements.add("CREATE TABLE " + system.quote(table.name()) + " (\n  " + String.join(",\n  ", parts) + "\n)");
        if (!table.comment().isEmpty()) {
            statements.add(
                    "COMMENT ON TABLE " + system.quote(table.name()) + " IS " + DefinitionSql.string(table.comment()));
        }
        table.columns().stream()
                .filter(c -> !c.comment().isEmpty())
                .forEach(c -> statements.add("COMMENT ON COLUMN " + system.quote(table.name()) + "."
                        + system.quote(c.name()) + " IS " + DefinitionSql.string(c.comment())));
        return statements;
    }

    private String column(ColumnDefinition column) {
        StringBuilder text =
                new StringBuilder(system.quote(column.name())).append(' ').append(column.sourceType());
        // a rule's value is computed when it is asked for, there as in a virtual column
        column.generation().ifPresent(rule -> text.append(" GENERATED ALWAYS AS (")
                .append(rule.expression().sql())
                .append(") VIRTUAL"));
        column.identity().ifPresent(i -> text.append(identity(i)));
        column.defaultValue().ifPresent(d -> text.append(" DEFAULT ").append(value(d, column.type())));
        return text.append(column.nullable() ? "" : " NOT NULL").toString();
    }

    /** Records come with the numbers that they have, so it counts by default; it is set to ALWAYS with the counter. */
    private static String identity(Identity identity) {
        return " GENERATED BY DEFAULT AS IDENTITY (START WITH " + identity.start() + " INCREMENT BY "
                + identity.increment() + ")";
    }

    private static String value(ColumnDefault value, LogicalType type) {
        if (value instanceof ColumnDefault.Expression expression) {
            return expression.sql();
        }
        String text = ((ColumnDefault.Literal) value).text();
        if (type.name().isBinary()) {
            return OracleScripting.hexadecimal(Base64.getDecoder().decode(text));
        }
        boolean small = text.getBytes(StandardCharsets.UTF_8).length <= OracleTypes.LONGEST_TEXT;
        return OracleScripting.literal(small && type.name() == TypeName.CLOB ? LogicalType.varchar(1) : type, text);
    }

    @Override
    public List<String> keyStatements(TableDefinition table) {
        return sql.keysAndIndexes(table);
    }
}
