package org.orderlyferry.databases.script;

import java.util.Optional;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;

/**
 * What MariaDB writes {@code tinyint(1)} for: truth values, and with some who use it small numbers. A script doesn't tell
 * which before all of it has been read, so a person does.
 */
final class SmallNumbers {

    private static final String TYPE = "tinyint";

    private SmallNumbers() {}

    /** Whether a column of truth values may as well be one of numbers. */
    static boolean mayBe(ColumnDefinition column) {
        return column.type().name() == TypeName.BOOLEAN && column.sourceType().startsWith(TYPE);
    }

    /** The table with such columns as numbers. */
    static TableDefinition of(TableDefinition table) {
        return table.toBuilder()
                .columns(table.columns().stream()
                        .map(c -> mayBe(c) ? number(c) : c)
                        .toList())
                .build();
    }

    private static ColumnDefinition number(ColumnDefinition column) {
        Optional<ColumnDefault> value = column.defaultValue()
                .map(d -> d instanceof ColumnDefault.Literal literal
                        ? new ColumnDefault.Literal(literal.text().equals("true") ? "1" : "0")
                        : d);
        return column.toBuilder().defaultValue(value).build().withType(LogicalType.SMALLINT);
    }
}
