package org.orderlyferry.bench;

/**
 * How long something takes next to a baseline of the same run.
 *
 * @param name what is compared
 * @param ours seconds, the median
 * @param baseline seconds, the median
 * @param wanted the ratio that is wanted at most
 */
record Ratio(String name, double ours, double baseline, double wanted) {

    static Ratio of(String name, Measure ours, Measure baseline, double wanted) {
        return new Ratio(name, ours.median(), baseline.median(), wanted);
    }

    double ratio() {
        return ours / baseline;
    }
}
