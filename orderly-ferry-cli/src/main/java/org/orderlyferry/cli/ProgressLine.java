package org.orderlyferry.cli;

import java.io.PrintWriter;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import org.orderlyferry.model.TableName;
import org.orderlyferry.progress.Plan;
import org.orderlyferry.progress.ProgressListener;

/** Shows on standard error how the work goes on: one line drawn anew at a terminal, a line now and then in a log. */
final class ProgressLine implements ProgressListener, AutoCloseable {

    private static final long REDRAW = 100_000_000L;
    private static final long LOG = 10_000_000_000L;
    private static final int BAR = 24;

    private final Console console;
    private final PrintWriter err;
    private final Terminal terminal;
    private final Style style;
    private final long started = System.nanoTime();
    private long movingSince = started;
    private long shownAt = started;
    private long plannedRows;
    private long rows;
    private long looked;
    private long bytes;
    private int slices;
    private int slicesDone;
    private int slicesRunning;
    private boolean showPlan;
    private int tables;
    private int tablesDone;
    private String doing = "";
    private boolean moving;
    private boolean drawn;

    ProgressLine(Console console) {
        this.console = console;
        this.err = console.err();
        this.terminal = console.terminal();
        this.style = new Style(terminal.colour().on(terminal.err()));
    }

    /** Shows an export's plan among the results, too. */
    ProgressLine showingPlan() {
        showPlan = true;
        return this;
    }

    @Override
    public void plan(Plan plan) {
        slices = plan.tables().stream().mapToInt(Plan.Table::slices).sum();
        if (showPlan) {
            end();
            PlanView.show(console, plan);
        }
    }

    @Override
    public void sliceStarted(TableName table) {
        slicesRunning++;
        doing = table.toString();
        show(false);
    }

    @Override
    public void sliceFinished(TableName table) {
        slicesRunning--;
        slicesDone++;
        show(false);
    }

    @Override
    public void tryingAgain(TableName table, String why, long pauseMillis) {
        slicesRunning--;
        end();
        err.println(Escapes.shown(
                "table " + table + " is tried again in " + Amounts.time(Duration.ofMillis(pauseMillis)) + ": " + why));
        slicesRunning++;
    }

    @Override
    public void planned(List<TableName> names, long count) {
        tables = names.size();
        plannedRows = count;
    }

    @Override
    public void stage(Stage stage) {
        doing = switch (stage) {
            case CHECKING -> "checking checksums";
            case KEYS -> "looking for broken keys and references";
            case PLANNING -> "planning";
            case MOVING -> "";
            case FINISHING -> "finishing";
        };
        if (stage != Stage.FINISHING) {
            // what was looked at before is none of what moves
            looked = 0;
        }
        if (stage == Stage.MOVING) {
            moving = true;
            movingSince = System.nanoTime();
        }
        show(true);
    }

    @Override
    public void tableStarted(TableName table, long count) {
        doing = table.toString();
        show(false);
    }

    @Override
    public void moved(TableName table, long count, long size) {
        rows += count;
        bytes += size;
        show(false);
    }

    @Override
    public void looked(TableName table, long count) {
        looked += count;
        show(false);
    }

    @Override
    public void tableFinished(TableName table, long count) {
        tablesDone++;
        show(false);
    }

    private void show(boolean now) {
        long time = System.nanoTime();
        if (terminal.err()) {
            if (now || time - shownAt >= REDRAW) {
                shownAt = time;
                drawn = true;
                err.print("\r\u001b[K" + TextTable.cut(text(time), terminal.columns() - 1));
                err.flush();
            }
        } else if (time - shownAt >= LOG) {
            shownAt = time;
            err.println(Escapes.shown(text(time)));
        }
    }

    private String text(long time) {
        if (!moving) {
            return looked == 0 ? doing : doing + "  " + Amounts.count(looked, "row");
        }
        double seconds = Math.max(0.001, (time - movingSince) / 1e9);
        long seen = rows + looked;
        double rate = seen / seconds;
        StringBuilder line = new StringBuilder();
        if (plannedRows > 0) {
            double share = Math.min(1, (double) seen / plannedRows);
            int full = (int) Math.round(share * BAR);
            if (terminal.err()) {
                line.append("━".repeat(full)).append("·".repeat(BAR - full)).append("  ");
            }
            line.append(String.format(Locale.ROOT, "%3.0f %%  ", share * 100));
        }
        line.append(Amounts.count(rows, "row")).append("  ").append(Amounts.bytes(bytes));
        if (looked > 0) {
            line.append("  ").append(Amounts.count(looked)).append(" as they were");
        }
        if (seen > 0) {
            line.append("  ").append(Amounts.count(Math.round(rate))).append(" rows/s");
        }
        if (plannedRows > seen && rate > 0) {
            long left = (long) ((plannedRows - seen) / rate * 1000);
            line.append("  ").append(Amounts.time(Duration.ofMillis(left))).append(" left");
        }
        if (tables > 0) {
            line.append("  table ")
                    .append(Math.min(tables, tablesDone + 1))
                    .append(" of ")
                    .append(tables);
        }
        if (slices > tables) {
            line.append("  slices ")
                    .append(slicesDone)
                    .append(" of ")
                    .append(slices)
                    .append(", ")
                    .append(slicesRunning)
                    .append(" running");
        }
        return doing.isEmpty()
                ? line.toString()
                : line.append("  ").append(doing).toString();
    }

    /** How long the work took so far. */
    Duration elapsed() {
        return Duration.ofNanos(System.nanoTime() - started);
    }

    /** Wipes the line, so that what comes next begins at the margin. */
    void end() {
        if (drawn) {
            err.print("\r\u001b[K");
            err.flush();
            drawn = false;
        }
    }

    @Override
    public void close() {
        end();
    }
}
