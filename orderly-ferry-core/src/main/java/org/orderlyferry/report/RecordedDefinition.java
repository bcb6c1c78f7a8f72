package org.orderlyferry.report;

import org.jspecify.annotations.NullMarked;
import org.orderlyferry.reconcile.DefinitionDifference;

/**
 * A part of a table's definition that isn't the same on both sides.
 *
 * @param column empty for the whole table
 * @param part what of it, in words
 * @param source what the source has; empty for nothing
 * @param target what the target has; empty for nothing
 * @param forced whether the target's system can't have it otherwise
 */
@NullMarked
public record RecordedDefinition(
        String table, String column, String part, String source, String target, boolean forced) {
    public RecordedDefinition {
        table = Bounded.text(table);
        column = Bounded.text(column);
        part = Bounded.text(part);
        source = Bounded.text(source);
        target = Bounded.text(target);
    }

    static RecordedDefinition of(DefinitionDifference difference) {
        return new RecordedDefinition(
                difference.table().text(),
                difference.column(),
                difference.part().toString(),
                difference.source(),
                difference.target(),
                difference.forced());
    }
}
