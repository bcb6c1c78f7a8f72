package org.orderlyferry.databases.dialect;

import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.orderlyferry.databases.sql.Expression;
import org.orderlyferry.databases.sql.ExpressionParser;
import org.orderlyferry.databases.sql.ExpressionWriter;
import org.orderlyferry.databases.sql.Portable;
import org.orderlyferry.databases.sql.Statements;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;

/** Expressions of definitions in a system's own SQL, as far as they mean the same there. */
final class CarriedSql {

    private final Adapting adapting;
    private final SystemSql dialect;
    private final LoadNotes notes;
    private final boolean trusting;

    CarriedSql(Adapting adapting, SystemSql dialect, LoadNotes notes, boolean trusting) {
        this.adapting = adapting;
        this.dialect = dialect;
        this.notes = notes;
        this.trusting = trusting;
    }

    String system() {
        return dialect.system();
    }

    /** A text that goes beyond what can be read, if a person has said that definitions are to be trusted. */
    Optional<String> trusted(SqlText text, TableDefinition table, String what) {
        boolean taken = trusting
                && text.isOf(dialect.system())
                && Statements.isOne(text.sql(), dialect.system())
                && !Statements.namesJava(text.sql(), dialect.system());
        if (taken) {
            notes.finding(
                    FindingCode.DEFINITION_TRUSTED,
                    table.name(),
                    what,
                    "sent as it is, since definitions are trusted: " + text.sql());
        }
        return Optional.of(text.sql()).filter(sql -> taken);
    }

    /** An expression in this system's SQL, or nothing where it may mean something else here. */
    Optional<String> carried(TableDefinition table, SqlText expression, Map<String, String> columnNames) {
        return written(table, expression, columnNames).or(() -> trusted(expression, table, "(expression)"));
    }

    private Optional<String> written(TableDefinition table, SqlText expression, Map<String, String> columnNames) {
        ExpressionWriter writer = new ExpressionWriter(adapting, column -> found(column, columnNames));
        Optional<Expression> read = ExpressionParser.parse(expression, table);
        if (expression.isOf(dialect.system())) {
            return read.flatMap(writer::write);
        }
        Portable portable = new Portable(
                column -> found(column, columnNames)
                        .flatMap(table::column)
                        .filter(adapting::canCompute)
                        .map(ColumnDefinition::type),
                expression.system(),
                dialect.system());
        return read.flatMap(portable::of).flatMap(writer::write);
    }

    /** The target's name of a column. */
    static Optional<String> found(Expression.Column column, Map<String, String> columnNames) {
        return column.among(columnNames.keySet()).map(columnNames::get);
    }

    /** The columns that an expression speaks of. */
    Set<String> columns(TableDefinition table, SqlText expression, Map<String, String> columnNames) {
        Set<String> columns = new TreeSet<>();
        ExpressionParser.parse(expression, table).ifPresent(read -> new ExpressionWriter(adapting, column -> {
                    Optional<String> found = found(column, columnNames);
                    found.ifPresent(columns::add);
                    return found;
                })
                .write(read));
        return columns;
    }
}
