package org.orderlyferry.file;

import java.nio.file.Path;
import java.util.Optional;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.profile.Proposal;
import org.orderlyferry.profile.TableProfile;
import org.orderlyferry.record.Rejects;

/** A place made of files, which may have no definitions of their own. */
@NullMarked
public interface FileTables extends Place {

    /** What was found out about the form of a file beside its format; empty for nothing worth telling. */
    String form();

    /** The name of a description that is used although nobody named it: it merely lies beside a file. */
    Optional<String> besideDescription();

    /**
     * How many records of a table can be taken, counted now.
     *
     * @param hears of the others; {@link #count(TableName)} counts them as little, and tells nobody
     */
    long count(TableName table, Rejects hears);

    /** Whether a table's definitions are only proposed from its values. */
    boolean isProposed(TableName table);

    @Override
    default boolean keepsDefinition(TableName table) {
        return !isProposed(table);
    }

    /** Definitions for a table, from all of its values. */
    Proposal propose(TableName table);

    /** What a table's values look like, as the file has them. */
    TableProfile profile(TableName table);

    /**
     * Writes a table's definitions as a CSVW description, which can be changed and given back.
     *
     * @throws org.orderlyferry.problem.PlaceException if it can't be written
     */
    void writeDefinitions(TableName table, Path to);
}
