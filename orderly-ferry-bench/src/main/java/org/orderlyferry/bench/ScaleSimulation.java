package org.orderlyferry.bench;

import java.util.Comparator;
import java.util.PriorityQueue;
import java.util.Random;

/**
 * How long a crossing's slices take that several lanes share out, out of what one lane, the source, the network, the target and the
 * process that leads can do. Each slice is an event: a lane takes the next one when it has none, waits for the one who leads to hand
 * it out, and moves its records at the rate that the narrowest place leaves it.
 *
 * @param lane bytes that a lane moves a second when it is alone
 * @param overhead seconds that a slice takes besides: connections, definitions, receipt
 * @param handing seconds that the one who leads needs to hand out a slice and take its result
 * @param source bytes that the source gives a second, at most, to all lanes together
 * @param network bytes that go through a machine's network a second
 * @param target bytes that the target takes a second, at most, from all lanes together
 * @param cores lanes that a machine runs without taking from each other
 */
record ScaleSimulation(
        double lane, double overhead, double handing, double source, double network, double target, double cores) {

    private static final double SPREAD = 0.2;

    /** What is moved: so many bytes, in slices of so many, by so many lanes on so many machines. */
    record Work(double bytes, double sliceBytes, int machines, int lanes) {

        long slices() {
            return Math.max(1, Math.round(bytes / sliceBytes));
        }
    }

    /**
     * What comes of it.
     *
     * @param slowest what the lane that is last needs, in terms of the lanes' mean
     * @param bottleneck what decides: {@code source}, {@code network}, {@code target}, {@code machines}, {@code leading} or {@code lanes}
     */
    record Outcome(double seconds, double slowest, String bottleneck) {}

    /** The rate of each of so many lanes, and what bounds it. */
    private Outcome rate(Work work) {
        double each = (double) work.lanes() / work.machines();
        double own = lane * Math.min(1, cores / each);
        double net = network / each;
        double from = source / work.lanes();
        double to = target / work.lanes();
        double least = Math.min(Math.min(own, net), Math.min(from, to));
        String what = least == from
                ? "source"
                : least == to ? "target" : least == net ? "network" : own < lane ? "machines" : "lanes";
        return new Outcome(least, 1, what);
    }

    /** The way out alone: into a file system that takes what comes. */
    ScaleSimulation onlyFrom() {
        return new ScaleSimulation(lane, overhead, handing, source, network, Double.MAX_VALUE, cores);
    }

    /** The way in alone: out of a file system that gives what is asked for. */
    ScaleSimulation onlyInto() {
        return new ScaleSimulation(lane, overhead, handing, Double.MAX_VALUE, network, target, cores);
    }

    /** More lanes than this take from each other. */
    int lanesThatPay() {
        return (int) Math.max(1, Math.ceil(Math.min(source, target) / lane));
    }

    /** Runs it. */
    Outcome run(Work work) {
        Outcome rate = rate(work);
        Random random = new Random(work.slices() * 31 + work.lanes());
        PriorityQueue<double[]> free = new PriorityQueue<>(Comparator.comparingDouble(l -> l[0]));
        for (int i = 0; i < work.lanes(); i++) {
            free.add(new double[] {0, 0});
        }
        double leader = 0;
        double waited = 0;
        double[] all = new double[work.lanes()];
        int at = 0;
        double end = 0;
        for (long i = 0; i < work.slices(); i++) {
            double[] next = free.remove();
            double handed = Math.max(next[0], leader) + handing;
            waited += handed - next[0];
            leader = handed;
            double size = work.sliceBytes() * (1 + SPREAD * (2 * random.nextDouble() - 1));
            double took = overhead + size / rate.seconds();
            end = Math.max(end, handed + took);
            free.add(new double[] {handed + took, next[1] + took});
        }
        double sum = 0;
        for (double[] lane : free) {
            all[at++] = lane[0];
            sum += lane[0];
        }
        boolean led = waited > 0.5 * end * work.lanes();
        return new Outcome(end, end / (sum / all.length), led ? "leading" : rate.bottleneck());
    }
}
