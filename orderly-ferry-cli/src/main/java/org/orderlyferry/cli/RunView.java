package org.orderlyferry.cli;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.orderlyferry.crossing.ForwardingRunListener;
import org.orderlyferry.ledger.LedgerLine;
import org.orderlyferry.model.Finding;
import org.orderlyferry.progress.ProgressListener;

/** Shows a run: a line for each step that is done, and below them how the current one goes on. */
final class RunView extends ForwardingRunListener implements AutoCloseable {

    private static final JsonMapper JSON = new JsonMapper();

    private final Console console;
    private final boolean json;
    private final String what;
    private final List<Finding> findings = new ArrayList<>();
    private ProgressLine progress;
    private Instant began = Instant.now();
    private boolean working;
    private boolean begun;

    /**
     * A view.
     *
     * @param what runs: a run, or a catch-up
     */
    RunView(Console console, boolean json, String what) {
        this.what = what;
        this.console = console;
        this.json = json;
        this.progress = new ProgressLine(console);
    }

    @Override
    public void run(String name, boolean goingOn) {
        begun = true;
        if (!json) {
            console.line(console.style()
                    .strong(goingOn ? "The " + what + " of " + name + " goes on" : "A " + what + " begins: " + name));
            console.out().flush();
        }
    }

    @Override
    public void waits() {
        if (!json) {
            console.line(console.style()
                    .faint("Another process was at work there; whether it still is takes 12 seconds to see …"));
            console.out().flush();
        }
    }

    /** Whether there is a run by now that can be gone on with. */
    boolean hasBegun() {
        return begun;
    }

    @Override
    public void begins(LedgerLine.Step step) {
        progress.end();
        progress = new ProgressLine(console);
        began = Instant.now();
        working = true;
    }

    @Override
    public void done(LedgerLine line, List<Finding> known) {
        progress.end();
        findings.addAll(known);
        if (json) {
            print(line);
            return;
        }
        String time = working
                ? Amounts.time(Duration.between(began, Instant.now()))
                : "done before, at " + line.at().toString().substring(0, 19) + "Z";
        working = false;
        String text = "  " + console.style().good(pad(word(line.what()))) + pad(said(line), 58) + "  "
                + console.style().faint(time);
        console.line(text.stripTrailing());
        console.out().flush();
    }

    private static String pad(String word) {
        return pad(word, 8);
    }

    private static String pad(String text, int width) {
        return text + " ".repeat(Math.max(0, width - TextTable.width(text)));
    }

    static String word(LedgerLine.Step step) {
        return step.name().toLowerCase(Locale.ROOT);
    }

    private static String said(LedgerLine line) {
        String tables = line.fact("tables");
        String none = line.fact("rows").isEmpty() ? "" : "no table";
        String count = tables.isEmpty() ? none : Amounts.count(tables.lines().count(), "table");
        String rows = line.fact("rows").isEmpty() ? "" : ", " + Amounts.count(Long.parseLong(line.fact("rows")), "row");
        return switch (line.what()) {
            case BACKUP ->
                tables.isEmpty()
                        ? "not needed: " + line.fact("why")
                        : count
                                + rows
                                + (line.fact("kept").isEmpty() ? " kept as they were" : " stay in the target, beside");
            case EXPORT ->
                count + rows + " in the set"
                        + (line.fact("rejected").isEmpty()
                                ? ""
                                : ", " + Amounts.count(Long.parseLong(line.fact("rejected"))) + " rejected");
            case DELETE -> rows.replaceFirst("^, ", "") + " taken out of the target";
            case LOAD ->
                tables.isEmpty() && line.fact("found").isEmpty()
                        ? "nothing to load: no table has changed"
                        : count
                                + rows
                                + (line.fact("found").isEmpty()
                                        ? " in the target"
                                        : " found to be in the target already");
            case BEFORE, AFTER -> "statement " + line.fact("number") + ": " + TextTable.cut(line.fact("sql"), 44);
            case PROOF ->
                line.fact("between") + " by " + line.fact("depth") + ": "
                        + (line.fact("equal").equals("true") ? "equal" : "different");
            case UNDO -> undone(line);
            case RUN, ARRIVAL -> "";
        };
    }

    private static String undone(LedgerLine line) {
        long removed = line.fact("removed").lines().filter(l -> !l.isEmpty()).count();
        long restored = line.fact("restored").lines().filter(l -> !l.isEmpty()).count();
        return removed + restored == 0
                ? "the target was as before the run"
                : Amounts.count(removed, "table") + " removed, " + restored + " as before";
    }

    /** One record a line (JSON lines). */
    private void print(LedgerLine line) {
        ObjectNode node = JsonNodeFactory.instance.objectNode();
        node.put("at", line.at().toString()).put("step", word(line.what()));
        ObjectNode facts = node.putObject("facts");
        line.facts().forEach(facts::put);
        print(node);
    }

    void print(ObjectNode node) {
        try {
            console.out().println(JSON.writeValueAsString(node));
            console.out().flush();
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("a tree of plain values can always be written", e);
        }
    }

    /** What was found on the way. */
    List<Finding> findings() {
        return findings;
    }

    @Override
    protected ProgressListener further() {
        return progress;
    }

    @Override
    public void close() {
        progress.end();
    }
}
