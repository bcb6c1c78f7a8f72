package org.orderlyferry.reconcile;

import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.TableName;

/**
 * A part of a table's definition that isn't the same on both sides.
 *
 * @param table the source's table
 * @param column which column, by the source's name; empty for the whole table
 * @param part what of it
 * @param source what the source has; empty text for nothing
 * @param target what the target has; empty text for nothing
 * @param forced whether the target's system can't have it otherwise: a load would make the same again
 */
@NullMarked
public record DefinitionDifference(
        TableName table, String column, Part part, String source, String target, boolean forced) {

    /** The parts of a definition. */
    public enum Part {
        COLUMN("column"),
        ORDER("order of columns"),
        TYPE("type"),
        NULLABILITY("null"),
        DEFAULT("default"),
        COUNTER("counter"),
        NEXT_VALUE("next value"),
        COMPUTED("computed as"),
        VALUES("only values"),
        COLLATION("collation"),
        PRIMARY_KEY("primary key"),
        UNIQUE_KEY("unique key"),
        REFERENCE("reference"),
        CHECK("check"),
        INDEX("index"),
        COMMENT("comment");

        private final String shown;

        Part(String shown) {
            this.shown = shown;
        }

        /** As it is shown to people. */
        @Override
        public String toString() {
            return shown;
        }
    }
}
