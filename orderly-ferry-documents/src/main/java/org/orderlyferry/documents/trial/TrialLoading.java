package org.orderlyferry.documents.trial;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Supplier;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Merged;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.place.Written;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Screen;

/** A load that is only tried: values are looked at, and nothing is written. */
public final class TrialLoading implements Loading {

    /** What would be told of the load itself. */
    public interface Plan {

        /** Looks at records of a table, for one thread. */
        Screen screen(TableName table);

        List<Finding> findings();

        List<LeftBehind> leftBehind();
    }

    private final Plan plan;
    private final Map<String, Refused> refused = new ConcurrentHashMap<>();

    public TrialLoading(Plan plan) {
        this.plan = plan;
    }

    /** Values of one column that no document could hold. */
    private record Refused(TableName table, String column, long count, String first) {}

    @Override
    public RecordWriter writer(TablePart part, Supplier<String> receipt) {
        Screen screen = plan.screen(part.table());
        return new RecordWriter() {
            @Override
            public void write(RecordBatch batch) {
                screen.screen(batch, why -> refuse(part.table(), why));
            }

            @Override
            public void finish() {
                // nothing was written
            }

            @Override
            public void close() {
                // nothing is held
            }
        };
    }

    private void refuse(TableName table, FerryException why) {
        String column = why instanceof BadValueException bad ? bad.column() : "";
        refused.merge(
                table + "\0" + column,
                new Refused(table, column, 1, why.getMessage()),
                (a, b) -> new Refused(table, a.column(), a.count() + 1, a.first()));
    }

    @Override
    public Optional<Screen> screen(TablePart part) {
        return Optional.of(plan.screen(part.table()));
    }

    @Override
    public boolean leaveOut(TableName table) {
        return true;
    }

    @Override
    public void finish(Written written) {
        // nothing was written
    }

    @Override
    public Optional<Merged> merged(TableName table) {
        return Optional.empty();
    }

    @Override
    public boolean isRefused() {
        return !refused.isEmpty();
    }

    @Override
    public List<Finding> findings() {
        List<Finding> findings = new ArrayList<>(plan.findings());
        refused.values()
                .forEach(r -> findings.add(new Finding(
                        FindingCode.VALUE_REFUSED,
                        r.table(),
                        r.column(),
                        String.format(
                                Locale.ROOT,
                                "%,d values can't be in a document, the first: %s",
                                r.count(),
                                r.first()))));
        return findings;
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return plan.leftBehind();
    }

    @Override
    public void close() {
        // nothing is held
    }
}
