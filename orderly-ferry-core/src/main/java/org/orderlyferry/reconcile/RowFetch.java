package org.orderlyferry.reconcile;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Supplier;
import java.util.stream.IntStream;
import org.orderlyferry.place.Slice;
import org.orderlyferry.progress.Crew;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.tally.ComparisonForm;
import org.orderlyferry.tally.Digest;
import org.orderlyferry.tally.TallyTaker;

/**
 * Reads records again that differ, and brings those of both sides together. What is held at once is bounded: where there is
 * more, the slices are read once more for the rest.
 */
final class RowFetch {

    /** Bytes of records that wait for their partners. */
    private static final long HELD = 48L * 1024 * 1024;

    private final List<Side> sources;
    private final Side target;
    private final ColumnPairs columns;
    private final Taking taking;
    private final StopSignal stop;
    private final Map<Digest, Deque<RecordValues>> waiting = new HashMap<>();
    private long held;

    /** Where one side's records are read. */
    record Side(RowSide side, RowEntries entries) {}

    /** What is done with records that were found. */
    interface Taking {
        /** Only the source has it. */
        void missing(RecordValues source);

        /** Only the target has it. */
        void extra(RecordValues target);

        /** Both have it. */
        void different(RecordValues source, RecordValues target);
    }

    /** What is done with a record of a slice. */
    @FunctionalInterface
    private interface Row {
        void at(long keyHigh, long keyLow, long high, long low, RecordBatch batch, int row);
    }

    RowFetch(List<Side> sources, Side target, ColumnPairs columns, Taking taking, StopSignal stop) {
        this.sources = sources;
        this.target = target;
        this.columns = columns;
        this.taking = taking;
        this.stop = stop;
    }

    /**
     * Fetches records.
     *
     * @return how many couldn't be found again: whoever writes there meanwhile has changed them
     */
    long run(DifferingKeys keys) {
        List<List<Slice>> sourceSlices =
                sources.stream().map(s -> RowSearch.pieces(s.entries(), keys)).toList();
        List<Slice> targetSlices = RowSearch.pieces(target.entries(), keys);
        long left = keys.counts().all();
        if (left * recordBytes() < HELD && together(keys, sourceSlices, targetSlices)) {
            return keys.counts().all();
        }
        long before;
        do {
            before = left;
            waiting.clear();
            held = 0;
            for (int i = 0; i < sources.size(); i++) {
                read(
                        sources.get(i),
                        sourceSlices.get(i),
                        columns.sourceNames(),
                        (kh, kl, h, l, batch, row) -> ofSource(keys, kh, kl, h, l, () -> RecordValues.of(batch, row)));
            }
            read(
                    target,
                    targetSlices,
                    columns.targetNames(),
                    (kh, kl, h, l, batch, row) -> ofTarget(keys, kh, kl, h, l, () -> RecordValues.of(batch, row)));
            leftover();
            left = keys.counts().all();
        } while (left > 0 && left < before);
        return left;
    }

    /** Those whose partners are fewer on the other side, or gone. */
    private void leftover() {
        waiting.values().forEach(rows -> rows.forEach(taking::missing));
    }

    private long recordBytes() {
        long most = target.entries().recordBytes();
        for (Side source : sources) {
            most = Math.max(most, source.entries().recordBytes());
        }
        // and what an object takes besides
        return most + 200;
    }

    /** A record that was found, by the digests of its key and of itself. */
    private record Found(long keyHigh, long keyLow, long high, long low, RecordValues values) {}

    /**
     * Where few differ, all sides are read at once.
     *
     * @return false, with nothing done, if they turn out to be larger than the first records of their slices were
     */
    private boolean together(DifferingKeys keys, List<List<Slice>> sourceSlices, List<Slice> targetSlices) {
        List<Integer> sides = IntStream.rangeClosed(0, sources.size()).boxed().toList();
        Map<Integer, List<Found>> found = new ConcurrentHashMap<>();
        AtomicLong size = new AtomicLong();
        new Crew(stop).work(sides, sides, (hand, number) -> {
            boolean there = number == sources.size();
            List<Found> own = new ArrayList<>();
            read(
                    there ? target : sources.get(number),
                    there ? targetSlices : sourceSlices.get(number),
                    there ? columns.targetNames() : columns.sourceNames(),
                    (kh, kl, h, l, batch, row) -> {
                        int count = keys.entries().count(kh, kl, h, l);
                        if ((there ? count < 0 : count > 0) && size.get() < 2 * HELD) {
                            RecordValues values = RecordValues.of(batch, row);
                            size.addAndGet(values.size());
                            own.add(new Found(kh, kl, h, l, values));
                        }
                    });
            found.put(number, own);
        });
        if (size.get() >= 2 * HELD) {
            return false;
        }
        for (int number : sides) {
            for (Found one : found.getOrDefault(number, List.of())) {
                if (number < sources.size()) {
                    ofSource(keys, one.keyHigh(), one.keyLow(), one.high(), one.low(), one::values);
                } else {
                    ofTarget(keys, one.keyHigh(), one.keyLow(), one.high(), one.low(), one::values);
                }
            }
        }
        leftover();
        return true;
    }

    private void read(Side side, List<Slice> slices, List<String> names, Row seen) {
        RecordBatch batch = new RecordBatch();
        for (Slice slice : slices) {
            stop.check();
            TallyTaker rows = new TallyTaker(names, columns.forms())
                    .keyed(side.entries().key().places());
            try (RecordReader reader = side.side().place().read(slice)) {
                while (reader.read(batch)) {
                    stop.check();
                    rows.add(batch);
                    for (int row = 0; row < batch.rows(); row++) {
                        seen.at(rows.keyHigh(row), rows.keyLow(row), rows.rowHigh(row), rows.rowLow(row), batch, row);
                    }
                }
            }
        }
    }

    private void ofSource(DifferingKeys keys, long kh, long kl, long h, long l, Supplier<RecordValues> record) {
        if (keys.entries().count(kh, kl, h, l) <= 0) {
            return;
        }
        if (keys.atTarget(kh, kl) == 0) {
            keys.foundAtSource(kh, kl, h, l);
            taking.missing(record.get());
        } else if (held < HELD) {
            keys.foundAtSource(kh, kl, h, l);
            RecordValues values = record.get();
            waiting.computeIfAbsent(new Digest(kh, kl), k -> new ArrayDeque<>()).add(values);
            held += values.size();
        }
    }

    private void ofTarget(DifferingKeys keys, long kh, long kl, long h, long l, Supplier<RecordValues> record) {
        if (keys.entries().count(kh, kl, h, l) >= 0) {
            return;
        }
        Deque<RecordValues> partners = waiting.get(new Digest(kh, kl));
        if (partners != null && !partners.isEmpty()) {
            keys.foundAtTarget(kh, kl, h, l);
            taking.different(partners.remove(), record.get());
        } else if (keys.atSource(kh, kl) == 0) {
            keys.foundAtTarget(kh, kl, h, l);
            taking.extra(record.get());
        }
    }

    /** Columns whose values differ. */
    static List<Integer> differing(List<ComparisonForm> forms, RecordValues source, RecordValues target) {
        return IntStream.range(0, forms.size())
                .filter(i -> !isSame(forms.get(i), source.bytes(i), target.bytes(i)))
                .boxed()
                .toList();
    }

    private static boolean isSame(ComparisonForm form, byte[] one, byte[] other) {
        return one == null || other == null ? one == other : form.areEqual(one, other);
    }
}
