package org.orderlyferry.cli.report;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.orderlyferry.cli.Amounts;
import org.orderlyferry.report.SliceTime;
import org.orderlyferry.report.WorkStep;

/** How long each step took, and its slices within it, on one axis of time. */
final class StepChart {

    private static final int WIDTH = 760;
    private static final int LEFT = 86;
    private static final int ROW = 34;
    private static final int BAR = 10;
    private static final int AXIS = 22;
    /** Of each step; so many are told apart by nobody. */
    private static final int MOST_SLICES = 120;

    private static final int MOST_LANES = 4;

    private StepChart() {}

    static Chart of(List<WorkStep> steps) {
        int bottom = ROW * steps.size() + 4;
        Chart chart = Chart.of("steps", "Time of each step and its slices", said(steps), WIDTH, bottom + AXIS);
        TimeAxis axis = new TimeAxis(steps, LEFT, WIDTH - LEFT - 30.0);
        axis.draw(chart, 0, bottom);
        double y = 4;
        for (TimeAxis.Placed placed : axis.steps()) {
            WorkStep step = placed.step();
            chart.label(0, y + BAR, step.step(), "text");
            double from = axis.x(placed.from());
            double to = axis.x(placed.from() + step.seconds());
            chart.box(from, y, Math.max(1, to - from), BAR, "step", step.step() + ": " + Seconds.of(step.seconds()));
            slices(chart, axis, placed, y + BAR + 2);
            y += ROW;
        }
        return chart;
    }

    private static void slices(Chart chart, TimeAxis axis, TimeAxis.Placed placed, double top) {
        List<SliceTime> longest = placed.step().slices().stream()
                .sorted(Comparator.comparingDouble(SliceTime::seconds).reversed())
                .limit(MOST_SLICES)
                .sorted(Comparator.comparingDouble(SliceTime::from))
                .toList();
        List<Double> free = new ArrayList<>();
        List<Integer> lanes = longest.stream().map(slice -> lane(free, slice)).toList();
        int used = Math.min(MOST_LANES, free.size());
        double height = Math.min(BAR - 2.0, 14.0 / Math.max(1, used));
        for (int i = 0; i < longest.size(); i++) {
            SliceTime slice = longest.get(i);
            double from = axis.x(placed.from() + slice.from());
            double to = axis.x(placed.from() + slice.from() + slice.seconds());
            chart.box(
                    from,
                    top + lanes.get(i) % MOST_LANES * height,
                    Math.max(0.5, to - from - 0.3),
                    height - 0.6,
                    "slice",
                    slice.table() + ": " + Seconds.of(slice.seconds()));
        }
    }

    /** The first lane that is free when the slice begins. */
    private static int lane(List<Double> free, SliceTime slice) {
        double end = slice.from() + slice.seconds();
        for (int i = 0; i < free.size(); i++) {
            if (free.get(i) <= slice.from()) {
                free.set(i, end);
                return i;
            }
        }
        free.add(end);
        return free.size() - 1;
    }

    private static String said(List<WorkStep> steps) {
        return String.join(
                ", ",
                steps.stream()
                        .map(s -> s.step() + " " + Seconds.of(s.seconds())
                                + (s.slices().isEmpty()
                                        ? ""
                                        : " in " + Amounts.count(s.slices().size() + s.furtherSlices(), "slice")))
                        .toList());
    }
}
