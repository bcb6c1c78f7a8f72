package org.orderlyferry.format;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Screen;

/** Writes a file of one or several tables, one after the other. Not safe for use by several threads at once. */
@NullMarked
public interface TablesWriter extends AutoCloseable {

    /** A writer for a table's records. It is finished and closed before the next is asked for. */
    RecordWriter writer(TableDefinition table);

    /** Takes records of a table out that the file can't hold, where somebody wants to go on without them; empty where it holds all. */
    default Optional<Screen> screen(TableDefinition table) {
        return Optional.empty();
    }

    /**
     * As {@link #screen}, where only writing shows what a table won't have, such as a key that a record before had: what isn't taken out
     * is written by it already, and its writer passes over it.
     */
    default Optional<Screen> writingScreen(TableDefinition table) {
        return screen(table);
    }

    /** Ends the file. Without this call, what was written doesn't count. */
    void finish();

    /** Files that belong beside this one, once it is finished and until it is closed. */
    default List<GrownFile> grownFiles() {
        return List.of();
    }

    /** What arrives in another form than it left. */
    default List<Finding> findings() {
        return List.of();
    }

    /** What the file can't hold. */
    default List<LeftBehind> leftBehind() {
        return List.of();
    }

    @Override
    void close();
}
