package org.orderlyferry.place;

import java.util.List;
import java.util.Optional;
import org.apiguardian.api.API;
import org.orderlyferry.model.TableName;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
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

    /**
     * Has the server take a digest of each record, and reads them with the records' keys.
     *
     * @param slice with the columns that the digests are of
     * @param key some of its columns
     * @param seed as above
     * @return a reader whose records have these columns, and behind them their digest as a whole number of 64 bits
     */
    RecordReader read(Slice slice, List<String> key, long seed);

    /**
     * Reads records that were picked by their digests. Nobody hears of the others, which aren't counted.
     *
     * @param which what is kept of the slice, as far as the server can say it; else all of it comes
     * @param rejects hears of records that can't be taken
     */
    RecordReader pick(Slice slice, Restriction which, Rejects rejects);
}
