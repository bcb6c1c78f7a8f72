package org.orderlyferry.format;

import java.util.List;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;

/**
 * What a file tells of one of its tables.
 *
 * @param table with all its columns, in the file's order
 * @param source how much of that the file tells
 * @param findings what is odd
 * @param leftBehind what is in the file but can't be carried, told once with one of its tables
 */
@NullMarked
public record Outline(TableDefinition table, Source source, List<Finding> findings, List<LeftBehind> leftBehind) {

    /** What a file tells of its columns. */
    public enum Source {
        /** Names only: every value is a text, and its type has to be found out. */
        NAMES,
        /** Names and kinds of values: what is a text is no number. */
        KINDS,
        /** Types, and keys where it has a way to. */
        DEFINITIONS
    }

    /** With nothing odd. */
    public Outline(TableDefinition table, Source source) {
        this(table, source, List.of());
    }

    /** With nothing left behind. */
    public Outline(TableDefinition table, Source source, List<Finding> findings) {
        this(table, source, findings, List.of());
    }
}
