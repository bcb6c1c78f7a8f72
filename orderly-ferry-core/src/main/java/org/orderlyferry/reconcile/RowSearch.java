package org.orderlyferry.reconcile;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import org.orderlyferry.place.KeyRange;
import org.orderlyferry.place.Slice;
import org.orderlyferry.progress.StopSignal;

/**
 * Finds which records of a table differ, from the digests of both sides. Only buckets of keys are looked into that aren't
 * alike, some of them at a time, so that memory is bounded however large the table is.
 */
final class RowSearch {

    /** Records that are told of at once. */
    private static final int AT_ONCE = 100_000;

    /** Ranges of a slice that are read instead of the whole: each is a question to the server. */
    private static final int MOST_RANGES = 400;

    /** Keys that are no further apart are read in one range. */
    private static final long NEAR = 50;

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

    /** Looks for all of them, part by part. */
    RowCounts run(Found found) {
        RowCounts counts = RowCounts.NONE;
        DifferingKeys keys = new DifferingKeys();
        int width = target.buckets() / target.parts();
        for (int part = 0; part < target.parts(); part++) {
            long[] here = new long[RowEntries.SUM * width];
            for (RowEntries source : sources) {
                source.addTo(here, part);
            }
            long[] there = new long[RowEntries.SUM * width];
            target.addTo(there, part);
            boolean[] unlike = new boolean[target.buckets()];
            boolean any = false;
            for (int bucket = 0; bucket < width; bucket++) {
                int at = RowEntries.SUM * bucket;
                boolean same = Arrays.equals(here, at, at + RowEntries.SUM, there, at, at + RowEntries.SUM);
                unlike[part * width + bucket] = !same;
                any |= !same;
            }
            if (any) {
                look(part, unlike, keys);
            }
            if (keys.size() >= AT_ONCE) {
                counts = counts.plus(keys.counts());
                found.rows(keys);
                keys = new DifferingKeys();
            }
        }
        counts = counts.plus(keys.counts());
        if (keys.size() > 0) {
            found.rows(keys);
        }
        return counts;
    }

    private void look(int part, boolean[] unlike, DifferingKeys keys) {
        stop.check();
        EntryCounts counts = new EntryCounts();
        for (RowEntries source : sources) {
            source.each(part, unlike, (slice, kh, kl, h, l, number) -> counts.add(kh, kl, h, l, 1));
        }
        target.each(part, unlike, (slice, kh, kl, h, l, number) -> counts.add(kh, kl, h, l, -1));
        counts.each(keys::add);
    }

    /** What is to be read of a side to find these records: slices that have some, or only those ranges of a slice that do. */
    static List<Slice> pieces(RowEntries side, DifferingKeys keys) {
        boolean[] all = new boolean[side.buckets()];
        keys.entries().each((kh, kl, h, l, count) -> all[RowEntries.bucket(kl, all.length)] = true);
        Map<Integer, SortedSet<Long>> numbers = new TreeMap<>();
        for (int part = 0; part < side.parts(); part++) {
            side.each(part, all, (slice, kh, kl, h, l, number) -> {
                if (keys.entries().count(kh, kl, h, l) != 0) {
                    SortedSet<Long> some = numbers.computeIfAbsent(slice, n -> new TreeSet<>());
                    if (some.size() <= MOST_RANGES) {
                        some.add(number);
                    }
                }
            });
        }
        List<Slice> pieces = new ArrayList<>();
        numbers.forEach((slice, some) -> pieces.addAll(pieces(side.slice(slice), side.key(), some)));
        return pieces;
    }

    private static List<Slice> pieces(Slice slice, RowKey key, SortedSet<Long> numbers) {
        if (!key.whole() || slice.range().nulls() || numbers.size() > MOST_RANGES) {
            return List.of(slice);
        }
        String column = slice.columns().get(key.places()[0]);
        if (!slice.range().columns().equals(List.of(column))) {
            return List.of(slice);
        }
        List<Slice> ranges = new ArrayList<>();
        long from = numbers.first();
        long to = from;
        for (long number : numbers) {
            if (number - to > NEAR) {
                ranges.add(range(slice, column, from, to));
                from = number;
            }
            to = number;
        }
        ranges.add(range(slice, column, from, to));
        return ranges;
    }

    private static Slice range(Slice slice, String column, long from, long to) {
        List<String> end = to == Long.MAX_VALUE ? List.of() : List.of(Long.toString(to + 1));
        return slice.within(new KeyRange(List.of(column), List.of(Long.toString(from)), end, false));
    }
}
