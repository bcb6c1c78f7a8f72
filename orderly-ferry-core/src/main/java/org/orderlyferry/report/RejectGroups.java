package org.orderlyferry.report;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.apiguardian.api.API;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.work.RejectFile;

/** Counts the records of a file of rejects by table, column and reason. */
@NullMarked
@API(status = API.Status.INTERNAL)
public final class RejectGroups {

    /** Groups beyond these are counted together: a reason may name each record's own value. */
    private static final int MOST_HELD = 10_000;

    private static final int TABLE = 0;
    private static final int FILE = 1;
    private static final int LINE = 2;
    private static final int COLUMN = 3;
    private static final int VALUE = 4;
    private static final int REASON = 5;
    private static final int KEY = 6;

    /** What makes a group. */
    private record Key(String table, String column, String reason) {}

    /** A group so far. */
    private static final class Group {
        private long count;
        private final List<RejectSample> first = new ArrayList<>();
    }

    private final Map<Key, Group> groups = new LinkedHashMap<>();
    private long count;

    private RejectGroups() {}

    /**
     * Counts them.
     *
     * @return null where the file isn't there or has no records
     * @throws org.orderlyferry.problem.FerryException if it can't be read
     */
    public static @Nullable RecordedRejects of(Path file) {
        if (!Files.isRegularFile(file)) {
            return null;
        }
        RejectGroups all = new RejectGroups();
        try (RecordReader reader = RejectFile.read(file)) {
            RecordBatch batch = new RecordBatch();
            while (reader.read(batch)) {
                for (int row = 0; row < batch.rows(); row++) {
                    all.add(batch, row);
                }
            }
        }
        return all.count == 0 ? null : all.recorded(file.toString());
    }

    private void add(RecordBatch batch, int row) {
        count++;
        Key key = new Key(
                Bounded.text(batch.text(row, TABLE)),
                Bounded.text(batch.text(row, COLUMN)),
                Bounded.text(batch.text(row, REASON)));
        Group group = groups.get(key);
        if (group == null && groups.size() == MOST_HELD) {
            return;
        }
        if (group == null) {
            group = new Group();
            groups.put(key, group);
        }
        group.count++;
        if (group.first.size() < RejectGroup.FIRST) {
            String line = Objects.requireNonNullElse(batch.text(row, LINE), "0");
            group.first.add(new RejectSample(
                    Bounded.text(batch.text(row, FILE)),
                    Long.parseLong(line),
                    batch.text(row, VALUE),
                    batch.columns() > KEY ? batch.text(row, KEY) : null));
        }
    }

    private RecordedRejects recorded(String file) {
        List<RejectGroup> sorted = groups.entrySet().stream()
                .map(e -> new RejectGroup(
                        e.getKey().table(),
                        e.getKey().column(),
                        e.getKey().reason(),
                        e.getValue().count,
                        e.getValue().first))
                .sorted(Comparator.comparingLong(RejectGroup::count).reversed())
                .toList();
        List<RejectGroup> listed = sorted.subList(0, Math.min(RecordedRejects.MOST, sorted.size()));
        long shown = listed.stream().mapToLong(RejectGroup::count).sum();
        return new RecordedRejects(file, count, listed, count - shown);
    }
}
