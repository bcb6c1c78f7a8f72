package org.orderlyferry.cli;

import org.orderlyferry.place.Cut;
import org.orderlyferry.problem.UsageException;
import picocli.CommandLine.Option;

/** How much of a server records may take while they move. */
final class LaneOptions {

    @Option(
            names = "--lanes",
            paramLabel = "N",
            description = "How many slices move at once, each on a connection of its own. Default: ${DEFAULT-VALUE}.")
    private int lanes = 2;

    @Option(
            names = "--slice-rows",
            paramLabel = "N",
            description =
                    "Cut larger tables, and files that can be cut, into slices of about so many records; a set has a"
                            + " file of each. Default: ${DEFAULT-VALUE}.")
    private long sliceRows = Cut.DEFAULT_ROWS;

    @Option(
            names = "--slice-bytes",
            paramLabel = "N",
            description = "Or of about so many bytes of the table or file, where that is fewer records. Default:"
                    + " ${DEFAULT-VALUE}.")
    private long sliceBytes = Cut.DEFAULT_BYTES;

    @Option(
            names = "--rows-per-second",
            paramLabel = "N",
            description = "Move no more records than that, all lanes together. Default: as many as go.")
    private long rowsPerSecond;

    @Option(
            names = "--bytes-per-second",
            paramLabel = "N",
            description = "Move no more bytes of values than that, all lanes together. Default: as many as go.")
    private long bytesPerSecond;

    int lanes() {
        if (lanes < 1) {
            throw new UsageException("--lanes takes a number from 1 on");
        }
        return lanes;
    }

    long sliceRows() {
        if (sliceRows < 1) {
            throw new UsageException("--slice-rows takes a number from 1 on");
        }
        return sliceRows;
    }

    long sliceBytes() {
        if (sliceBytes < 1) {
            throw new UsageException("--slice-bytes takes a number from 1 on");
        }
        return sliceBytes;
    }

    long rowsPerSecond() {
        return Math.max(0, rowsPerSecond);
    }

    long bytesPerSecond() {
        return Math.max(0, bytesPerSecond);
    }
}
