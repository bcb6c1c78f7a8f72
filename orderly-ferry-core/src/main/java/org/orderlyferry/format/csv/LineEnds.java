package org.orderlyferry.format.csv;

import java.util.Optional;
import org.apiguardian.api.API;

/** Which line ends a file has, and where the first one stands that isn't like those before it. */
@API(status = API.Status.INTERNAL)
public final class LineEnds {

    private LineEnd first;
    private LineEnd other;
    private long otherLine;

    /** Notes a record's end. */
    public void saw(LineEnd end, long line) {
        if (end == first || other != null) {
            return;
        }
        if (first == null) {
            first = end;
        } else {
            other = end;
            otherLine = line;
        }
    }

    /** What is odd about them, in a sentence. */
    public Optional<String> oddity() {
        return other == null
                ? Optional.empty()
                : Optional.of("line ends are mixed: " + first + " at first, " + other + " on line " + otherLine
                        + "; each was taken as the end of a record");
    }
}
