package org.orderlyferry.cli;

import org.orderlyferry.place.OutOfRange;
import picocli.CommandLine.Option;

/** What becomes of values of a database that can't travel. */
final class OutOfRangeOption {

    @Option(
            names = "--out-of-range",
            paramLabel = "refuse|null",
            description = "What becomes of values that no other system could hold, such as 0000-00-00 or infinity."
                    + " Default: refuse.")
    private OutOfRange value = OutOfRange.REFUSE;

    OutOfRange value() {
        return value;
    }
}
