package org.orderlyferry.integrity;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.progress.Crew;
import org.orderlyferry.progress.OneAtATime;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.progress.StopSignal;
import org.orderlyferry.tally.TallyTaker;
import org.orderlyferry.work.TallyWork;

/** Reads tables of one place once, and hashes what constraints ask of them. */
final class KeysSeen implements TallyWork.Witnesses {

    private final Map<TableName, List<KeyHashes>> wanted = new LinkedHashMap<>();
    private final Map<TableName, List<String>> columns = new LinkedHashMap<>();
    private final Map<Integer, List<KeyHashes.Attempt>> attempts = new ConcurrentHashMap<>();

    /** Wants hashes of a table. */
    void want(KeyHashes hashes) {
        wanted.computeIfAbsent(hashes.columns().table(), t -> new ArrayList<>()).add(hashes);
    }

    boolean isEmpty() {
        return wanted.isEmpty();
    }

    /**
     * Reads all records.
     *
     * @param whole whether all of a table's columns are read, rather than those that are asked for: a record of which another
     *     value can't be taken doesn't come
     * @param told hears how many were looked at
     */
    void read(Place place, boolean whole, int lanes, ProgressListener told, StopSignal stop) {
        List<TallyWork.Wanted> tables = new ArrayList<>();
        wanted.forEach((table, hashes) -> {
            columns.put(
                    table,
                    whole
                            ? place.define(table).columnNames()
                            : hashes.stream()
                                    .flatMap(h -> h.columns().names().stream())
                                    .distinct()
                                    .toList());
            // no column is tallied
            tables.add(new TallyWork.Wanted(table, columns.get(table), List.of()));
        });
        if (!tables.isEmpty()) {
            new TallyWork(place, tables, new OneAtATime(new Looking(told)), new Crew(stop))
                    .witnesses(this)
                    .run(lanes);
        }
    }

    /** Nothing moves as yet. */
    private record Looking(ProgressListener told) implements ProgressListener {

        @Override
        public void moved(TableName table, long rows, long bytes) {
            told.looked(table, rows);
        }

        @Override
        public void tryingAgain(TableName table, String why, long pauseMillis) {
            told.tryingAgain(table, why, pauseMillis);
        }
    }

    @Override
    public void attend(TallyTaker taker, TableName table, Slice slice, int number) {
        List<KeyHashes.Attempt> all = wanted.get(table).stream()
                .map(h -> h.attempt(columns.get(table)))
                .toList();
        all.forEach(taker::witness);
        attempts.put(number, all);
    }

    @Override
    public String done(int number) {
        attempts.remove(number).forEach(KeyHashes.Attempt::done);
        return "";
    }
}
