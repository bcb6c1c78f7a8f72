package org.orderlyferry.cli;

import java.math.BigDecimal;
import java.nio.file.Path;
import java.util.List;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.reconcile.ComparisonRule;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Reconcile;
import picocli.CommandLine.Option;

/** What is compared, and how. */
final class ComparisonOptions {

    @Option(
            names = "--depth",
            paramLabel = "counts|digests|rows",
            description = "Compare the numbers of records; or every value; or find out which records differ, and where."
                    + " Default: digests, or rows where an option needs it.")
    private Depth depth;

    @Option(
            names = "--key",
            paramLabel = "[TABLE:]COLUMN,COLUMN…",
            description =
                    "By which columns records are told apart, by their names at the source. Default: the primary key,"
                            + " a unique key, or the whole record. May be given several times.")
    private List<String> keys = List.of();

    @Option(
            names = "--as",
            paramLabel = "NAME",
            description =
                    "What the one table of the source is called at the target. Default: the same, or whatever it is"
                            + " called where each side has just one.")
    private String as;

    @Option(
            names = "--rule",
            paramLabel = "RULE",
            description = "What doesn't count when values are compared: without=COLUMN, places=N (of numbers),"
                    + " time-digits=N (of a second), zone=ZONE (of times that have none), trailing-blanks, any-case,"
                    + " null-as-empty. May be given several times.")
    private List<String> rules = List.of();

    @Option(
            names = "--totals",
            description =
                    "Show control totals of each column on both sides, computed from the values as they are read: how"
                            + " many there are, nulls, the smallest and the largest, sums of numbers, lengths of texts.")
    private boolean totals;

    @Option(
            names = "--server-totals",
            description =
                    "Have both servers compute control totals by their own SQL too, and hold them against those of"
                            + " the values as they were read.")
    private boolean serverTotals;

    @Option(
            names = "--read-values",
            description =
                    "Read every value of both sides here, also where both are servers that can take digests themselves"
                            + " (PostgreSQL, from version 14 on), and only what isn't equal by these would be read.")
    private boolean readValues;

    @Option(
            names = "--structure",
            description =
                    "Compare definitions too: types, nulls, defaults, counters, keys, references, checks, indexes."
                            + " What the target's system can't have otherwise is told apart; views, triggers and what else no load"
                            + " carries is ticked off.")
    private boolean structure;

    @Option(
            names = "--keep",
            paramLabel = "FOLDER",
            description =
                    "Keep in this folder what was tallied, slice by slice, until all is: a comparison that is stopped or killed goes"
                            + " on there when it is called again.")
    private Path keep;

    @Option(
            names = "--sample",
            paramLabel = "PERCENT",
            description =
                    "Compare only so many of the records, such as 1%%, the same ones on both sides, picked by a hash of"
                            + " their keys; and the numbers of all. Such a comparison never says that two places are equal.")
    private String sample;

    @Option(
            names = "--lanes",
            paramLabel = "N",
            description = "How many slices are read at once on each side, each over a connection of its own. Default:"
                    + " ${DEFAULT-VALUE}.")
    private int lanes = 1;

    @Option(
            names = "--slice-rows",
            paramLabel = "N",
            description = "Cut larger tables into slices of about so many records. Default: ${DEFAULT-VALUE}.")
    private long sliceRows = Cut.DEFAULT_ROWS;

    @Option(
            names = "--rows-per-second",
            paramLabel = "N",
            description = "Read no more records than that on each side, all lanes together. Default: as many as go.")
    private long rowsPerSecond;

    @Option(
            names = "--bytes-per-second",
            paramLabel = "N",
            description = "Read no more bytes of values than that on each side. Default: as many as go.")
    private long bytesPerSecond;

    /** How deeply: as told, or as options need it that are about single records. */
    Depth depth(boolean keepsDifferences) {
        boolean single = !keys.isEmpty() || keepsDifferences;
        if (depth == null) {
            return single || !rules.isEmpty() ? Depth.ROWS : Depth.DIGESTS;
        }
        if (depth != Depth.ROWS && single) {
            throw new UsageException("--key and --differences are about single records, and need --depth rows");
        }
        return depth;
    }

    /** What the one table of the source is called at the target; null where nobody says so. */
    String as() {
        return as;
    }

    /** Tells a comparison all of it, but for how deep it goes. */
    Reconcile tell(Reconcile reconcile) {
        reconcile
                .totals(totals)
                .serverTotals(serverTotals)
                .definitions(structure)
                .byServers(!readValues)
                .rules(rules.stream().map(ComparisonRule::parse).toList())
                .lanes(lanes)
                .sliceRows(sliceRows)
                .pace(Math.max(0, rowsPerSecond), Math.max(0, bytesPerSecond));
        keys.forEach(key -> tell(reconcile, key));
        if (keep != null) {
            reconcile.keep(keep);
        }
        if (sample != null) {
            reconcile.sample(percent());
        }
        if (as != null) {
            reconcile.as(TableName.of(as));
        }
        return reconcile;
    }

    private static void tell(Reconcile reconcile, String key) {
        int colon = key.indexOf(':');
        List<String> columns = List.of(key.substring(colon + 1).split(","));
        reconcile.key(colon < 0 ? "*" : key.substring(0, colon), columns);
    }

    private BigDecimal percent() {
        try {
            return new BigDecimal(sample.replaceFirst("\\s*%$", ""));
        } catch (NumberFormatException e) {
            throw new UsageException("--sample is a share such as 1% or 0.5%, not " + sample, e);
        }
    }
}
