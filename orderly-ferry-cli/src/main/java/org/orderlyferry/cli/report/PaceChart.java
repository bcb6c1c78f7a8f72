package org.orderlyferry.cli.report;

import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.cli.Amounts;
import org.orderlyferry.report.PaceSample;
import org.orderlyferry.report.WorkStep;

/** How many records moved a second, step by step, on the same axis of time. */
final class PaceChart {

    private static final int WIDTH = 760;
    private static final int LEFT = 86;
    private static final int TOP = 8;
    private static final int FLOOR = 130;
    private static final int AXIS = 22;

    private PaceChart() {}

    static Chart of(List<WorkStep> steps) {
        double most = steps.stream()
                .flatMap(s -> s.pace().stream())
                .mapToDouble(PaceChart::rate)
                .max()
                .orElse(0);
        Chart chart = Chart.of("pace", "Records a second", said(steps), WIDTH, FLOOR + AXIS);
        TimeAxis axis = new TimeAxis(steps, LEFT, WIDTH - LEFT - 30.0);
        axis.draw(chart, TOP, FLOOR);
        chart.label(0, TOP + 8.0, Amounts.count(Math.round(most)), "text");
        chart.label(0, FLOOR, "0", "text");
        if (most <= 0) {
            return chart;
        }
        for (TimeAxis.Placed placed : axis.steps()) {
            if (placed.step().pace().isEmpty()) {
                continue;
            }
            List<double[]> points = new ArrayList<>();
            double end = axis.x(placed.from());
            points.add(new double[] {end, FLOOR});
            for (PaceSample sample : placed.step().pace()) {
                double y = FLOOR - (FLOOR - TOP) * rate(sample) / most;
                points.add(new double[] {axis.x(placed.from() + sample.from()), y});
                end = axis.x(Math.min(
                        placed.from() + placed.step().seconds(), placed.from() + sample.from() + sample.seconds()));
                points.add(new double[] {end, y});
            }
            points.add(new double[] {end, FLOOR});
            chart.line(points, "pace");
        }
        return chart;
    }

    static double rate(PaceSample sample) {
        double rate = sample.rows() / sample.seconds();
        return Double.isFinite(rate) && rate > 0 ? rate : 0;
    }

    private static String said(List<WorkStep> steps) {
        return String.join(
                ", ",
                steps.stream()
                        .filter(s -> !s.pace().isEmpty())
                        .map(s -> s.step() + " at most "
                                + Amounts.count(Math.round(s.pace().stream()
                                        .mapToDouble(PaceChart::rate)
                                        .max()
                                        .orElse(0)))
                                + " records a second")
                        .toList());
    }
}
