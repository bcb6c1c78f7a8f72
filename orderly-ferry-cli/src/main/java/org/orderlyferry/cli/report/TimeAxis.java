package org.orderlyferry.cli.report;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.cli.Amounts;
import org.orderlyferry.report.WorkStep;

/**
 * The time that was worked, from left to right: steps follow each other without the pauses between them, since a run that was
 * cut short may have gone on days later.
 */
final class TimeAxis {

    /** Steps with the second at which each begins. */
    record Placed(WorkStep step, double from) {}

    private static final double[] TICKS = {
        0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 30, 60, 120, 300, 600, 1200, 1800, 3600, 7200, 18_000, 43_200, 86_400, 604_800
    };
    private static final int MOST_TICKS = 8;

    private final List<Placed> steps = new ArrayList<>();
    private final double seconds;
    private final double left;
    private final double width;

    TimeAxis(List<WorkStep> all, double left, double width) {
        double from = 0;
        for (WorkStep step : all) {
            // what the process measured; a record may come from anybody
            double took = Double.isFinite(step.seconds()) ? Math.max(0, step.seconds()) : 0;
            steps.add(new Placed(step, from));
            from += took;
        }
        this.seconds = Math.max(from, 0.001);
        this.left = left;
        this.width = width;
    }

    List<Placed> steps() {
        return steps;
    }

    double x(double at) {
        return left + width * Math.max(0, Math.min(seconds, at)) / seconds;
    }

    /** Thin lines at round times, with what they are. */
    void draw(Chart chart, double top, double bottom) {
        double apart = TICKS[TICKS.length - 1];
        for (double tick : TICKS) {
            if (seconds / tick <= MOST_TICKS) {
                apart = tick;
                break;
            }
        }
        for (int i = 0; i * apart <= seconds && i <= MOST_TICKS; i++) {
            double x = x(i * apart);
            chart.line(List.of(new double[] {x, top}, new double[] {x, bottom}), "tick");
            chart.label(x, bottom + 14, time(i * apart), "tick");
        }
    }

    private static String time(double at) {
        return at == 0 ? "0" : Amounts.time(Duration.ofMillis(Math.round(at * 1000)));
    }
}
