package org.orderlyferry.crossing;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.orderlyferry.io.AppendedFile;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.ledger.RunLock;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.report.Timeline;
import org.slf4j.LoggerFactory;

/**
 * Writes down how a run went, for people: a line for each step, each slice with its time, and each thing to be known. It
 * hands on all that it hears. Nothing relies on it: what a run goes on by stands in its ledger.
 */
final class RunLog extends ForwardingRunListener implements AutoCloseable {

    static final String NAME = "log.txt";

    private final RunListener further;
    private final Timeline time;
    private final AppendedFile out;
    /** When the slices of a table that move began, the oldest first. */
    private final Map<TableName, Deque<Instant>> slices = new HashMap<>();

    private final Map<TableName, Integer> numbers = new HashMap<>();
    private Instant step = Instant.now();

    RunLog(Path folder, RunListener further) {
        this.further = further;
        this.time = new Timeline(further);
        try {
            Files.createDirectories(folder);
            this.out = AppendedFile.open(folder.resolve(NAME));
            out.keep(Files.size(folder.resolve(NAME)));
        } catch (IOException e) {
            throw new PlaceException(folder.toString(), "the run's log can't be written: " + e.getMessage(), e);
        }
    }

    private void line(String text) {
        String line = Instant.now().truncatedTo(ChronoUnit.MILLIS) + " " + Yaml.comment(text) + System.lineSeparator();
        try {
            out.addLoosely(line.getBytes(StandardCharsets.UTF_8));
        } catch (IOException e) {
            LoggerFactory.getLogger(RunLog.class).debug("the run's log lacks a line", e);
        }
    }

    private static String since(Instant begin) {
        return String.format(
                Locale.ROOT, "%.3f s", Duration.between(begin, Instant.now()).toMillis() / 1000.0);
    }

    @Override
    public void run(String name, boolean goingOn) {
        line(
                goingOn
                        ? "run " + name + " goes on, by " + RunLock.who()
                        : "run " + name + " begins, by " + RunLock.who());
        further.run(name, goingOn);
    }

    @Override
    public void begins(LedgerLine.Step what) {
        step = Instant.now();
        numbers.clear();
        slices.clear();
        line(what.word() + " begins");
        further.begins(what);
    }

    @Override
    public void done(LedgerLine told, List<Finding> findings) {
        line(told.what().word() + " done in " + since(step));
        findings.forEach(f -> line("to be known: " + f));
        further.done(told, findings);
    }

    @Override
    public void sliceStarted(TableName table) {
        slices.computeIfAbsent(table, t -> new ArrayDeque<>()).add(Instant.now());
        super.sliceStarted(table);
    }

    @Override
    public void sliceFinished(TableName table) {
        Instant begin = slices.getOrDefault(table, new ArrayDeque<>()).poll();
        int number = numbers.merge(table, 1, Integer::sum);
        line("slice " + number + " of " + table + " in " + (begin == null ? "no time" : since(begin)));
        super.sliceFinished(table);
    }

    @Override
    public void tryingAgain(TableName table, String why, long pauseMillis) {
        line("a slice of " + table + " is tried again in " + pauseMillis + " ms: " + why);
        super.tryingAgain(table, why, pauseMillis);
    }

    @Override
    public void tableFinished(TableName table, long rows) {
        line("table " + table + " with " + rows + " records");
        super.tableFinished(table, rows);
    }

    @Override
    protected ProgressListener further() {
        return time;
    }

    /** When what has moved. */
    Timeline time() {
        return time;
    }

    /** Why the run ends before its end. */
    void failed(RuntimeException e) {
        // what is done stays, and the next run goes on with it
        line("ended: " + (e instanceof StoppedException ? "stopped" : e.getMessage()));
    }

    @Override
    public void close() {
        try {
            out.close();
        } catch (IOException e) {
            LoggerFactory.getLogger(RunLog.class).debug("the run's log can't be closed", e);
        }
    }
}
