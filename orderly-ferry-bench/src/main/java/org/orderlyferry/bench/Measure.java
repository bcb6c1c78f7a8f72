package org.orderlyferry.bench;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;

/**
 * One thing that is timed over several rounds.
 *
 * @param name what it is
 * @param work does it once
 * @param seconds what each round took
 */
record Measure(String name, Work work, List<Double> seconds) {

    /** Something that is timed. */
    @FunctionalInterface
    interface Work {
        void run() throws Exception;
    }

    static Measure of(String name, Work work) {
        return new Measure(name, work, new ArrayList<>());
    }

    void round() throws Exception {
        long started = System.nanoTime();
        work.run();
        seconds.add((System.nanoTime() - started) / 1e9);
    }

    double median() {
        List<Double> sorted = new ArrayList<>(seconds);
        Collections.sort(sorted);
        return sorted.get(sorted.size() / 2);
    }

    /** Runs all of them in turns, so that whatever slows the machine slows each. */
    static void rounds(int count, List<Measure> measures) throws Exception {
        for (int round = 0; round < count; round++) {
            for (Measure measure : measures) {
                measure.round();
            }
        }
    }
}
