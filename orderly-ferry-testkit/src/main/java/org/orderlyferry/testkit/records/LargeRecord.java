package org.orderlyferry.testkit.records;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Verdict;
import org.orderlyferry.report.ComparedCounts;
import org.orderlyferry.report.KeptCount;
import org.orderlyferry.report.MovedCounts;
import org.orderlyferry.report.RecordedComparison;
import org.orderlyferry.report.RecordedEnd;
import org.orderlyferry.report.RecordedSet;
import org.orderlyferry.report.SetFile;
import org.orderlyferry.report.SliceTime;
import org.orderlyferry.report.Software;
import org.orderlyferry.report.WorkKind;
import org.orderlyferry.report.WorkRecord;
import org.orderlyferry.report.WorkStatus;
import org.orderlyferry.report.WorkStep;

/** The record of a run over many tables, of which one may differ. */
public final class LargeRecord {

    private static final String DIGEST = "0123456789abcdef0123456789abcdef";
    private static final Instant BEGAN = Instant.parse("2031-05-02T23:10:00Z");
    private static final double SECONDS = 800;

    private LargeRecord() {}

    /**
     * A record.
     *
     * @param tables how many
     * @param different the number of the table that differs; -1 for none
     */
    public static WorkRecord of(int tables, int different) {
        List<MovedCounts> moved = new ArrayList<>();
        List<KeptCount> kept = new ArrayList<>();
        List<ComparedCounts> compared = new ArrayList<>();
        List<SetFile> files = new ArrayList<>();
        List<SliceTime> slices = new ArrayList<>();
        for (int i = 0; i < tables; i++) {
            String name = "HERBARIUM.SHEET_OF_SPECIMENS_" + i;
            long rows = 1_234_567L + i;
            moved.add(new MovedCounts(name, rows, rows, 0, 0, 99_999_999, DIGEST, 12.3, null, null));
            kept.add(new KeptCount(name, rows, DIGEST));
            compared.add(new ComparedCounts(
                    name,
                    i == different ? Verdict.DIFFERENT : Verdict.EQUAL,
                    rows,
                    rows,
                    List.of(),
                    List.of(),
                    List.of(),
                    DIGEST,
                    DIGEST,
                    null,
                    null,
                    null,
                    List.of(),
                    List.of()));
            files.add(new SetFile("data/" + name + ".csv.gz", 12_345_678, DIGEST + DIGEST));
            slices.add(new SliceTime(name, i * SECONDS / tables, 1.1));
        }
        RecordedComparison comparison = new RecordedComparison(
                "source and target", Depth.DIGESTS, different < 0, compared, List.of(), "", null, null, null);
        return new WorkRecord(
                WorkRecord.VERSION,
                WorkKind.RUN,
                "a night",
                WorkStatus.FINISHED,
                Software.here(),
                BEGAN,
                BEGAN.plusSeconds(3 * (long) SECONDS),
                new RecordedEnd("jdbc:postgresql://old/herbarium", "PostgreSQL 16"),
                new RecordedEnd("jdbc:mariadb://new/herbarium", "MariaDB 11"),
                Map.of("onto", "replace"),
                List.of(
                        step("export", moved, kept, null, slices),
                        step("load", moved, List.of(), null, slices),
                        step("proof", List.of(), List.of(), comparison, slices)),
                List.of(),
                null,
                new RecordedSet("runs/2031-05-02T23-10-00/set", files, 0));
    }

    private static WorkStep step(
            String name,
            List<MovedCounts> moved,
            List<KeptCount> kept,
            RecordedComparison compared,
            List<SliceTime> slices) {
        return new WorkStep(
                name, BEGAN, SECONDS, Map.of(), moved, kept, compared, slices, 0, 0, List.of(), List.of(), List.of(),
                Map.of());
    }
}
