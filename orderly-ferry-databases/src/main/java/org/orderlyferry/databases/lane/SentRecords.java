package org.orderlyferry.databases.lane;

import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.record.Records;

/** Where the records of a bulk lane came from: a server that refuses one tells only how many came before it. */
public final class SentRecords {

    private record Run(long first, Origin from, Origin to, int rows) {}

    private final List<Run> runs = new ArrayList<>();
    private long count;

    /** Notes that all records of a batch were sent. */
    public void add(Records batch) {
        if (batch.rows() > 0) {
            runs.add(new Run(count, batch.origin(0), batch.origin(batch.rows() - 1), batch.rows()));
            count += batch.rows();
        }
    }

    public long count() {
        return count;
    }

    /** Forgets all; counting begins anew. */
    public void clear() {
        runs.clear();
        count = 0;
    }

    /**
     * Where a record came from.
     *
     * @param number of the record, from 0
     */
    public String origin(long number) {
        for (Run run : runs) {
            if (number >= run.first() && number < run.first() + run.rows()) {
                // a line a record: then it is known to the line
                if (run.to().line() - run.from().line() == run.rows() - 1) {
                    Origin from = run.from();
                    return new Origin(from.table(), from.source(), from.line() + number - run.first(), from.isFile())
                            .toString();
                }
                return "between " + run.from() + " and " + run.to();
            }
        }
        return "the record " + (number + 1);
    }
}
