package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Supplier;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Merged;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.place.Written;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Screen;
import org.orderlyferry.record.fit.Misfits;

/** A load that is only tried: every value is looked at, and nothing is changed. */
public final class Rehearsal implements Loading {

    private final Session session;
    private final LoadNotes notes = new LoadNotes();
    private final Misfits misfits = new Misfits();
    private final LoadPlan plan;
    private final Map<TableName, LongKeys> longKeys = new ConcurrentHashMap<>();
    private int refusedTables;

    /** Plans a load and makes ready for its records to be looked at. */
    public Rehearsal(Session session, List<TableDefinition> wanted, LoadModes modes, boolean trusting)
            throws SQLException {
        this.session = session;
        this.plan = LoadPlan.of(session, wanted, modes, trusting, notes);
        List<String> missing = plan.missingSchemas();
        if (!missing.isEmpty()) {
            notes.finding(
                    FindingCode.SCHEMA_MISSING, "there is no schema " + String.join(", ", missing) + " at the target");
        }
    }

    @Override
    public Optional<Screen> screen(TablePart part) {
        return Optional.of(plan.route(part.table()).screen(session.dialect().writing()));
    }

    @Override
    public RecordWriter writer(TablePart part, Supplier<String> receipt) {
        TableName table = part.table();
        Route route = plan.route(table);
        LongKeys keys = longKeys.computeIfAbsent(
                table,
                t -> new LongKeys(
                        route.arrival().name(),
                        route.into(),
                        session.dialect().writing().bytesOfALongKey()));
        return route.fitted(
                keys.looking(new Nowhere()),
                session.dialect().writing(),
                notes,
                misfits.of(route.arrival().name()));
    }

    /** Takes records and does nothing with them. */
    private static final class Nowhere implements RecordWriter {

        @Override
        public void write(RecordBatch batch) {
            // they were looked at on their way here
        }

        @Override
        public void finish() {
            // there is nothing to bring anywhere
        }

        @Override
        public void close() {
            // nothing is held
        }
    }

    /** Values don't need the tables; so the definitions are tried when nobody writes any more. */
    @Override
    public void finish(Written written) {
        refusedTables = new DefinitionTrial(session, plan).run(notes);
        longKeys.values().forEach(k -> refusedTables += k.run(session, notes));
    }

    @Override
    public Optional<Merged> merged(TableName table) {
        return Optional.empty();
    }

    @Override
    public boolean isRefused() {
        return !misfits.isEmpty() || refusedTables > 0;
    }

    @Override
    public List<Finding> findings() {
        List<Finding> all = new ArrayList<>(misfits.findings());
        all.addAll(notes.findings());
        return all;
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return notes.leftBehind();
    }

    @Override
    public List<LeftBehind> lacking(List<LeftBehind> source) {
        return OwnTypes.without(source, plan);
    }

    @Override
    public void close() {
        // nothing was done
    }
}
