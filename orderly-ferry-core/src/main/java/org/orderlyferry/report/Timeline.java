package org.orderlyferry.report;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.LongSupplier;
import org.apiguardian.api.API;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.TableName;
import org.orderlyferry.progress.ForwardingProgress;
import org.orderlyferry.progress.ProgressListener;

/**
 * Notes when slices move and how many records a second, and hands on all that it hears. What it keeps is bounded: a long
 * piece of work is noted in longer stretches of time. For one thread at a time, like every listener.
 */
@NullMarked
@API(status = API.Status.INTERNAL)
public final class Timeline extends ForwardingProgress {

    /** How many slices are noted. */
    static final int MOST_SLICES = 10_000;

    /** How many stretches of time the pace is told in, at most. */
    static final int MOST_SAMPLES = 240;

    private static final double SECOND = 1e9;

    private final ProgressListener further;
    private final LongSupplier nanos;
    private final List<SliceTime> slices = new ArrayList<>();
    private final Map<TableName, Deque<Long>> moving = new HashMap<>();
    private final long[] rows = new long[MOST_SAMPLES];
    private final long[] bytes = new long[MOST_SAMPLES];
    private long furtherSlices;
    private long retries;
    private long began;
    private long stretch;

    /** Begins now. */
    public Timeline(ProgressListener further) {
        this(further, System::nanoTime);
    }

    Timeline(ProgressListener further, LongSupplier nanos) {
        this.further = further;
        this.nanos = nanos;
        begin();
    }

    /** Forgets what was noted, and begins again. */
    public void begin() {
        began = nanos.getAsLong();
        stretch = (long) SECOND / 4;
        slices.clear();
        moving.clear();
        java.util.Arrays.fill(rows, 0);
        java.util.Arrays.fill(bytes, 0);
        furtherSlices = 0;
        retries = 0;
    }

    private long since() {
        return nanos.getAsLong() - began;
    }

    @Override
    public void sliceStarted(TableName table) {
        moving.computeIfAbsent(table, t -> new ArrayDeque<>()).add(since());
        super.sliceStarted(table);
    }

    @Override
    public void sliceFinished(TableName table) {
        Long from = moving.getOrDefault(table, new ArrayDeque<>()).poll();
        if (slices.size() == MOST_SLICES) {
            furtherSlices++;
        } else if (from != null) {
            slices.add(new SliceTime(table.toString(), rounded(from), rounded(since() - from)));
        }
        super.sliceFinished(table);
    }

    @Override
    public void tryingAgain(TableName table, String why, long pauseMillis) {
        retries++;
        super.tryingAgain(table, why, pauseMillis);
    }

    @Override
    public void moved(TableName table, long more, long size) {
        long at = since();
        while (at / stretch >= MOST_SAMPLES) {
            lengthen();
        }
        rows[(int) (at / stretch)] += more;
        bytes[(int) (at / stretch)] += size;
        super.moved(table, more, size);
    }

    /** Two stretches become one. */
    private void lengthen() {
        for (int i = 0; i < MOST_SAMPLES; i++) {
            int from = 2 * i;
            rows[i] = from + 1 < MOST_SAMPLES ? rows[from] + rows[from + 1] : 0;
            bytes[i] = from + 1 < MOST_SAMPLES ? bytes[from] + bytes[from + 1] : 0;
        }
        stretch *= 2;
    }

    @Override
    protected ProgressListener further() {
        return further;
    }

    /** Seconds since it began. */
    public double seconds() {
        return rounded(since());
    }

    /** The slices that have moved, in the order in which they ended. */
    public List<SliceTime> slices() {
        return List.copyOf(slices);
    }

    /** How many slices have moved that aren't noted. */
    public long furtherSlices() {
        return furtherSlices;
    }

    /** How often a slice was tried again. */
    public long retries() {
        return retries;
    }

    /** How many records moved in each stretch of time, from the beginning to the last that moved. */
    public List<PaceSample> pace() {
        int last = MOST_SAMPLES;
        while (last > 0 && rows[last - 1] == 0) {
            last--;
        }
        List<PaceSample> pace = new ArrayList<>();
        long now = since();
        for (int i = 0; i < last; i++) {
            // the last stretch may not be over
            long length = Math.max(1_000_000, Math.min(stretch, now - i * stretch));
            pace.add(new PaceSample(rounded(i * stretch), rounded(length), rows[i], bytes[i]));
        }
        return pace;
    }

    private static double rounded(long nanos) {
        return Math.round(nanos / 1e6) / 1e3;
    }
}
