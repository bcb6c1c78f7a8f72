package org.orderlyferry.place;

import java.util.List;
import java.util.Optional;
import org.apiguardian.api.API;
import org.orderlyferry.model.TableName;
import org.orderlyferry.tally.Tally;

/**
 * Digests that a place's server takes of records where they are, so that none has to come. They say less than a tally of
 * Orderly Ferry's own: only what is equal by them is known; what isn't may be equal all the same, and is read. As safe for use
 * by threads as its place.
 */
@API(status = API.Status.INTERNAL)
public interface OwnDigests {

    /**
     * How the server would take a digest of some columns: where two places say the same text, equal digests are those of
     * equal values.
     *
     * @return empty where it can take none that says that
     */
    Optional<String> form(TableName table, List<String> columns);

    /**
     * Has the server take it.
     *
     * @param seed goes into each record's digest: the same at both places, and another one for each comparison, so that nobody
     *     can make records beforehand that are taken for others
     * @return a tally without columns
     */
    Tally of(Slice slice, long seed);
}
