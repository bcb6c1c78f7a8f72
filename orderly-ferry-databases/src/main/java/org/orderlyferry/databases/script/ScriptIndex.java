package org.orderlyferry.databases.script;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Where in a script each table's records are, found in one pass: stretches in which all statements that bring records
 * are of one table. So a table is read without going through the whole script again.
 */
final class ScriptIndex {

    /**
     * A stretch of a script.
     *
     * @param start where its first statement begins, in bytes of what is read
     * @param end where its last statement ends; {@link Long#MAX_VALUE} for the end of the script
     * @param line of its first statement
     * @param delimiter what ends a statement there
     */
    record Stretch(String table, long start, long end, long line, String delimiter) {}

    private final List<Stretch> stretches = new ArrayList<>();
    /** How many stretches there were when a transaction, or a savepoint in it, began. */
    private final List<Mark> marks = new ArrayList<>();

    private record Mark(String name, int stretches) {}

    /**
     * Takes notice of a statement that brings records.
     *
     * @param before where the statement before it ended
     */
    void records(String table, long before, long start, long line, String delimiter) {
        int last = stretches.size() - 1;
        boolean sameRun = last >= 0
                && stretches.get(last).table().equals(table)
                && stretches.get(last).end() == Long.MAX_VALUE
                && (marks.isEmpty() || marks.get(marks.size() - 1).stretches() <= last);
        if (!sameRun) {
            close(before);
            stretches.add(new Stretch(table, start, Long.MAX_VALUE, line, delimiter));
        }
    }

    private void close(long at) {
        int last = stretches.size() - 1;
        if (last >= 0 && stretches.get(last).end() == Long.MAX_VALUE) {
            Stretch open = stretches.get(last);
            stretches.set(last, new Stretch(open.table(), open.start(), at, open.line(), open.delimiter()));
        }
    }

    /** A transaction begins, or a savepoint in one. */
    void begin(String name, long at) {
        close(at);
        if (name.isEmpty()) {
            marks.clear();
        }
        marks.add(new Mark(name, stretches.size()));
    }

    /** A transaction ends, and what it did stays. */
    void commit(long at) {
        close(at);
        marks.clear();
    }

    /**
     * What was done since a transaction, or a savepoint, began, never happened.
     *
     * @param name the savepoint's; empty for the transaction
     * @return how many stretches of records went
     */
    int rollback(String name, long at) {
        close(at);
        for (int i = marks.size() - 1; i >= 0; i--) {
            if (marks.get(i).name().equalsIgnoreCase(name) || name.isEmpty() && i == 0) {
                int from = marks.get(i).stretches();
                int gone = stretches.size() - from;
                stretches.subList(from, stretches.size()).clear();
                marks.subList(name.isEmpty() ? i : i + 1, marks.size()).clear();
                return gone;
            }
        }
        return 0;
    }

    /** A table is dropped, and all that was brought so far with it. */
    void drop(String table, long at) {
        close(at);
        Map<Integer, Integer> kept = new HashMap<>();
        List<Stretch> left = new ArrayList<>();
        for (int i = 0; i < stretches.size(); i++) {
            kept.put(i, left.size());
            if (!stretches.get(i).table().equals(table)) {
                left.add(stretches.get(i));
            }
        }
        kept.put(stretches.size(), left.size());
        marks.replaceAll(m -> new Mark(m.name(), kept.get(m.stretches())));
        stretches.clear();
        stretches.addAll(left);
    }

    List<Stretch> of(String table) {
        return stretches.stream().filter(s -> s.table().equals(table)).toList();
    }
}
