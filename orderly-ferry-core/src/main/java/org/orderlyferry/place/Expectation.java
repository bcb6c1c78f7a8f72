package org.orderlyferry.place;

import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/**
 * What a place would make of tables, to be held against what it has.
 *
 * @param made each table as the place would hold it, by its name at the source, with expressions in a plain form
 * @param plain brings a definition of the place's own into the same form, so that what means the same reads the same
 * @param typeName what the place calls a type
 * @param leftBehind what it wouldn't make, and why
 */
public record Expectation(
        Map<TableName, TableDefinition> made,
        UnaryOperator<TableDefinition> plain,
        Function<LogicalType, String> typeName,
        List<LeftBehind> leftBehind) {
    public Expectation {
        made = Map.copyOf(made);
        leftBehind = List.copyOf(leftBehind);
    }
}
