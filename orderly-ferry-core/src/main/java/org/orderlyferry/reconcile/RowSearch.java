package org.orderlyferry.reconcile;

import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.progress.StopSignal;

/**
 * Finds which records of a table differ, from the digests of both sides. Only buckets of keys are looked into that aren't
 * alike, some of them at a time, so that memory is bounded however large the table is.
 */
final class RowSearch {

    /** Entries that are looked into at once, of both sides. */
    private static final long AT_ONCE = 1_000_000;

    private final List<RowEntries> sources;
    private final RowEntries target;
    private final StopSignal stop;

    /**
     * A search.
     *
     * @param sources what should be at the target: the source's records, and those that the target had before
     */
    RowSearch(List<RowEntries> sources, RowEntries target, StopSignal stop) {
        this.sources = sources;
        this.target = target;
        this.stop = stop;
    }

    /** What is done with those that were found together. */
    @FunctionalInterface
    interface Found {
        void rows(DifferingKeys keys);
    }

    /** Looks for all of them, a group at a time. */
    RowCounts run(Found found) {
        RowCounts counts = RowCounts.NONE;
        int buckets = target.buckets();
        boolean[] group = new boolean[buckets];
        long size = 0;
        for (int bucket = 0; bucket < buckets; bucket++) {
            if (isAlike(bucket)) {
                continue;
            }
            group[bucket] = true;
            size += target.count(bucket);
            for (RowEntries source : sources) {
                size += source.count(bucket);
            }
            if (size >= AT_ONCE) {
                counts = counts.plus(look(group, found));
                group = new boolean[buckets];
                size = 0;
            }
        }
        return size == 0 ? counts : counts.plus(look(group, found));
    }

    private boolean isAlike(int bucket) {
        long[] sum = new long[RowEntries.SUM];
        sources.forEach(s -> s.addTo(sum, bucket));
        long[] there = new long[RowEntries.SUM];
        target.addTo(there, bucket);
        return java.util.Arrays.equals(sum, there);
    }

    private RowCounts look(boolean[] group, Found found) {
        stop.check();
        EntryCounts counts = new EntryCounts();
        for (RowEntries source : sources) {
            source.each(group, (slice, kh, kl, h, l) -> counts.add(kh, kl, h, l, 1));
        }
        target.each(group, (slice, kh, kl, h, l) -> counts.add(kh, kl, h, l, -1));
        DifferingKeys keys = new DifferingKeys();
        counts.each(keys::add);
        if (keys.isEmpty()) {
            return RowCounts.NONE;
        }
        RowCounts result = keys.counts();
        found.rows(keys);
        return result;
    }

    /** Which slices of a side have some of these records. */
    static List<Integer> slices(RowEntries side, DifferingKeys keys) {
        boolean[] all = new boolean[side.buckets()];
        keys.entries().each((kh, kl, h, l, count) -> all[RowEntries.bucket(kl, all.length)] = true);
        List<Integer> slices = new ArrayList<>();
        side.each(all, (slice, kh, kl, h, l) -> {
            boolean last = !slices.isEmpty() && slices.get(slices.size() - 1) == slice;
            if (!last && keys.entries().count(kh, kl, h, l) != 0) {
                slices.add(slice);
            }
        });
        return slices;
    }
}
