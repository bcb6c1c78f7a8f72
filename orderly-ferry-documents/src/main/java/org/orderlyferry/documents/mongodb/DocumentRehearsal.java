package org.orderlyferry.documents.mongodb;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Supplier;
import org.bson.types.ObjectId;
import org.orderlyferry.documents.bson.ColumnCells;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Merged;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.place.Written;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Screen;

/** A load that is only tried: values are looked at, and nothing is written. */
final class DocumentRehearsal implements Loading {

    private final LoadTables plan;
    private final Map<String, Refused> refused = new ConcurrentHashMap<>();

    DocumentRehearsal(LoadTables plan) {
        this.plan = plan;
    }

    /** Values of one column that no document could hold. */
    private record Refused(TableName table, String column, long count, String first) {}

    @Override
    public RecordWriter writer(TablePart part, Supplier<String> receipt) {
        LoadTable table = plan.tables().get(part.table());
        List<ColumnCells> cells = table.cells();
        ObjectId id = GeneratedId.of(0, 0, 0);
        return new RecordWriter() {
            @Override
            public void write(RecordBatch batch) {
                for (int row = 0; row < batch.rows(); row++) {
                    try {
                        table.document(cells, batch, row, id);
                    } catch (BadValueException e) {
                        refuse(part.table(), e);
                    }
                }
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

    private void refuse(TableName table, BadValueException why) {
        refused.merge(
                table + "\0" + why.column(),
                new Refused(table, why.column(), 1, why.getMessage()),
                (a, b) -> new Refused(table, a.column(), a.count() + 1, a.first()));
    }

    @Override
    public Optional<Screen> screen(TablePart part) {
        return Optional.of(plan.tables().get(part.table()).screen());
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
