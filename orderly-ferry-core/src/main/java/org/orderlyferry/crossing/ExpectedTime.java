package org.orderlyferry.crossing;

import java.time.Duration;
import java.util.Comparator;
import java.util.List;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/**
 * How long a run may take, by short reads of its source: of the largest table, for what a record takes, and of some of the
 * smallest, for what a table takes however few records it has.
 */
final class ExpectedTime {

    private static final long OF_RECORDS_NANOS = 300_000_000L;
    private static final long OF_TABLES_NANOS = 200_000_000L;

    /** With fewer records nobody can tell what one takes; nor does it matter. */
    private static final long ENOUGH = 1_000;

    /** A record is read twice and written twice: the set, and the target, which is read once more for the proof. */
    private static final int TIMES_OF_A_RECORD = 5;

    /** As measured with a thousand of them: a table is looked up and made besides, and has files, keys and receipts. */
    private static final int TIMES_OF_A_TABLE = 20;

    private final Place source;
    private final StopSignal stop;
    private long read;

    private ExpectedTime(Place source, StopSignal stop) {
        this.source = source;
        this.stop = stop;
    }

    /**
     * Reads, and reckons.
     *
     * @param tables one at least
     * @throws org.orderlyferry.problem.FerryException if a table can't be read
     */
    static Duration of(Place source, List<CheckResult.Table> tables, StopSignal stop) {
        return new ExpectedTime(source, stop).measured(tables);
    }

    private Duration measured(List<CheckResult.Table> tables) {
        List<CheckResult.Table> bySize = tables.stream()
                .sorted(Comparator.comparingLong(CheckResult.Table::rows))
                .toList();
        // first the largest one: what runs for the first time takes longer
        long ofRecords = nanosOf(bySize.get(bySize.size() - 1), OF_RECORDS_NANOS);
        long records = read;
        long ofTables = 0;
        int smallest = 0;
        while (smallest < bySize.size() - 1 && ofTables < OF_TABLES_NANOS) {
            ofTables += nanosOf(bySize.get(smallest), OF_TABLES_NANOS);
            smallest++;
        }
        double ofATable = smallest == 0 ? 0 : ofTables / (double) smallest;
        double ofARecord =
                records < ENOUGH && smallest > 0 ? 0 : Math.max(0, ofRecords - ofATable) / Math.max(1, records);
        long rows = tables.stream().mapToLong(CheckResult.Table::rows).sum();
        return Duration.ofNanos(
                (long) (TIMES_OF_A_TABLE * ofATable * tables.size() + TIMES_OF_A_RECORD * ofARecord * rows));
    }

    private long nanosOf(CheckResult.Table table, long most) {
        stop.check();
        read = 0;
        long started = System.nanoTime();
        RecordBatch batch = new RecordBatch();
        try (RecordReader reader = source.read(Slice.whole(source.define(table.to())))) {
            while (System.nanoTime() - started < most && reader.read(batch)) {
                read += batch.rows();
            }
        }
        return System.nanoTime() - started;
    }
}
