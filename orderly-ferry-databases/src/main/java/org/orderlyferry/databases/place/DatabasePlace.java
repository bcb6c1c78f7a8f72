package org.orderlyferry.databases.place;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Supplier;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.loading.DatabaseLoading;
import org.orderlyferry.databases.loading.ExpectedTables;
import org.orderlyferry.databases.loading.KeptAside;
import org.orderlyferry.databases.loading.Ledger;
import org.orderlyferry.databases.loading.RecordRemoval;
import org.orderlyferry.databases.loading.Rehearsal;
import org.orderlyferry.databases.loading.TableRemoval;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.DocumentView;
import org.orderlyferry.place.Expectation;
import org.orderlyferry.place.KeptTables;
import org.orderlyferry.place.KeyRange;
import org.orderlyferry.place.KeySample;
import org.orderlyferry.place.Leftover;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.OutOfRange;
import org.orderlyferry.place.OwnDigests;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Query;
import org.orderlyferry.place.QueryPlace;
import org.orderlyferry.place.Removal;
import org.orderlyferry.place.Restriction;
import org.orderlyferry.place.ServerTotal;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.place.TextForms;
import org.orderlyferry.place.ViewStatements;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** A database as a place. */
final class DatabasePlace implements QueryPlace, TargetPlace {

    /** Tables of up to about so many records are counted rather than estimated. */
    private static final long COUNTED = 200_000;

    private final Connector connector;
    private final Session session;
    private final Dialect dialect;
    private final boolean write;
    private final Optional<TargetFile> file;
    private final boolean newDatabase;
    private final TouchedTables touched;
    private final KnownTables known;
    private final StandingTables standing;
    private final AskingSession asking;
    private final Map<TableName, Long> estimates = new ConcurrentHashMap<>();
    private boolean loaded;

    /**
     * A database behind an open connection.
     *
     * @param file the database's file, where it is written to one; if it was made, it goes again if nothing is loaded
     * @param newDatabase whether the database was made for this; it goes again if nothing is loaded
     */
    DatabasePlace(Connector connector, Session session, boolean write, Optional<TargetFile> file, boolean newDatabase) {
        this(connector, session, new KnownTables(session, write), new StandingTables(), write, file, newDatabase);
    }

    private DatabasePlace(
            Connector connector,
            Session session,
            KnownTables known,
            StandingTables standing,
            boolean write,
            Optional<TargetFile> file,
            boolean newDatabase) {
        this.connector = connector;
        this.known = known;
        this.standing = standing;
        this.session = session;
        this.dialect = session.dialect();
        this.write = write;
        this.file = file;
        this.newDatabase = newDatabase;
        this.touched = new TouchedTables(connector, session);
        this.asking = new AskingSession(connector);
    }

    @Override
    public String address() {
        return session.address();
    }

    @Override
    public String system() {
        return session.work("the version can't be read", () -> SystemVersion.of(session));
    }

    @Override
    public List<TableName> tables() {
        return known.names();
    }

    @Override
    public TableDefinition define(TableName table) {
        return known.define(table);
    }

    private void touch() {
        if (!write) {
            touched.another(tables().size());
        }
    }

    @Override
    public long count(TableName table) {
        touch();
        return session.work("table " + table + " can't be counted", () -> session.count(table));
    }

    /** Asked once of what shows one moment: whoever plans asks again and again, of thousands of tables perhaps. */
    @Override
    public long estimate(TableName table) {
        return write ? estimated(table) : estimates.computeIfAbsent(table, this::estimated);
    }

    private long estimated(TableName table) {
        OptionalLong rows = session.work("table " + table + " can't be looked up", () -> dialect.reading()
                .estimate(session, table));
        // a small one is counted: that takes no time, and says what is so
        return rows.isPresent() && rows.getAsLong() > COUNTED ? rows.getAsLong() : count(table);
    }

    @Override
    public OptionalLong bytes(TableName table) {
        long bytes = session.work("the size of table " + table + " can't be read", () -> dialect.reading()
                .bytes(session.connection(), table));
        return bytes < 0 ? OptionalLong.empty() : OptionalLong.of(bytes);
    }

    @Override
    public OptionalLong quickBytes(TableName table) {
        return dialect.reading().readsForBytes() ? OptionalLong.empty() : bytes(table);
    }

    @Override
    public Optional<List<ServerTotal>> totals(TableName table) {
        touch();
        return Optional.of(session.work(
                "the totals of table " + table + " can't be computed",
                () -> new ServerTotals(session, define(table)).compute()));
    }

    @Override
    public Optional<OwnDigests> ownDigests() {
        // what is read as null isn't null to the server
        return connector.options().outOfRange() == OutOfRange.NULL
                ? Optional.empty()
                : dialect.reading()
                        .digests()
                        .map(digests -> new ServerDigests(session, known, digests, this::touch, this::reading));
    }

    @Override
    public List<TableName> referrers(TableName table) {
        return known.referrers(table);
    }

    @Override
    public List<TableDefinition> named(List<TableDefinition> others) {
        return known.named(others);
    }

    @Override
    public Optional<Expectation> expected(List<TableDefinition> others) {
        return Optional.of(session.work(
                "what would be made of the tables can't be told",
                () -> ExpectedTables.of(session, others, connector.options().trustDefinitions())));
    }

    @Override
    public List<String> databases() {
        return dialect.namesDatabase(connector.address())
                ? List.of()
                : session.work("its databases can't be listed", () -> dialect.databases(session.connection()));
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return session.work("its views and triggers can't be listed", () -> {
            List<LeftBehind> all = new ArrayList<>(session.catalogue().leftBehind());
            if (!write) {
                dialect.reading()
                        .severalMoments(session.connection())
                        .ifPresent(why -> all.add(new LeftBehind("one moment", "(all)", why)));
            }
            if (!write && Ledger.isThere(session)) {
                all.add(
                        new LeftBehind(
                                "unfinished load",
                                Ledger.NAME.name(),
                                "a load is under way, or was killed; the same load goes on with it, any other undoes it first"));
            }
            return all;
        });
    }

    @Override
    public RecordReader read(Slice slice) {
        return read(slice, rejects());
    }

    @Override
    public Rejects rejects() {
        return connector.options().rejects();
    }

    @Override
    public RecordReader read(Slice slice, Rejects rejects) {
        touch(slice);
        return reading(rejects).of(define(slice.table()), slice);
    }

    @Override
    public RecordReader readSome(Slice slice, Rejects rejects, KeySample sample) {
        touch(slice);
        return reading(rejects).some(define(slice.table()), slice, sample);
    }

    @Override
    public RecordReader readRestricted(Slice slice, Rejects rejects, Restriction restriction) {
        touch(slice);
        return reading(rejects).restricted(define(slice.table()), slice, restriction);
    }

    private void touch(Slice slice) {
        touch();
        standing.check(session, slice);
    }

    private TableReading reading(Rejects rejects) {
        return new TableReading(session, connector.options().outOfRange(), rejects);
    }

    private QueryReading queries() {
        return new QueryReading(session, connector.options().outOfRange());
    }

    @Override
    public List<Slice> cut(TableDefinition table, long rows, Cut cut) {
        touch();
        // who may write sees what has come meanwhile
        Cut how = write ? new Cut(cut.rows(), cut.columns()) : cut;
        return session.work(
                "table " + table.name() + " can't be cut into slices", () -> Cutting.slices(session, table, rows, how));
    }

    /** May be asked by any thread, also while this place is read. */
    @Override
    public Companions companions(int count) {
        LoadNotes notes = new LoadNotes();
        List<Session> opened = new ArrayList<>();
        Supplier<Session> open = () -> {
            Session another = connector.open();
            opened.add(another);
            return another;
        };
        try {
            session.work("more connections that see the same can't be opened", () -> {
                dialect.reading().share(session, open, count, notes);
                return null;
            });
        } catch (RuntimeException e) {
            opened.forEach(Session::close);
            throw e;
        }
        return new Companions(opened.stream().map(this::companion).toList(), notes.findings());
    }

    @Override
    public Optional<String> moment() {
        return session.work("what it shows can't be shown to others", () -> dialect.reading()
                .moment(session));
    }

    @Override
    public Optional<String> mark(TableName table, boolean standing) {
        touch();
        return session.work("what it shows of table " + table + " can't be marked", () -> dialect.reading()
                .mark(session, table, standing));
    }

    @Override
    public OptionalLong unwritten(TableName table, String mark) {
        touch();
        return session.work("whether table " + table + " was written can't be told", () -> dialect.reading()
                .unwritten(session, table, mark));
    }

    /** It sees the same, so what is known here needn't be found out there. */
    private Place companion(Session another) {
        return new DatabasePlace(connector, another, known.in(another), standing, write, Optional.empty(), false);
    }

    @Override
    public Optional<TextForms> textForms(ColumnDefinition column) {
        return session.work(
                "how texts are compared can't be told", () -> dialect.writing().textForms(asking, column));
    }

    @Override
    public boolean keepsIntegrity() {
        return true;
    }

    @Override
    public boolean ordersByKey() {
        return dialect.writing().ordersByKey();
    }

    @Override
    public int mostLanes() {
        return dialect.writing().mostLanes();
    }

    @Override
    public TableDefinition define(Query query) {
        return queries().define(query);
    }

    @Override
    public List<KeyRange> cut(Query query, TableDefinition definition, String column, long rows) {
        return queries().cut(query, definition, column, rows);
    }

    @Override
    public RecordReader read(Query query, TableDefinition definition, KeyRange range, Rejects rejects) {
        return queries().read(query, definition, range, rejects);
    }

    @Override
    public Loading begin(List<TableDefinition> wanted, LoadModes modes, String plan) {
        known.forget();
        return session.work(
                "the tables can't be made",
                () -> DatabaseLoading.begin(session, connector::open, wanted(wanted, modes, plan), () -> {
                    known.forget();
                    loaded = true;
                    file.ifPresent(TargetFile::mustBeThere);
                }));
    }

    @Override
    public Loading join(List<TableDefinition> wanted, LoadModes modes, String plan) {
        return session.work(
                "the load can't be joined",
                () -> DatabaseLoading.join(session, connector::open, wanted(wanted, modes, plan)));
    }

    @Override
    public Leftover clear(String plan) {
        known.forget();
        Leftover left = session.work(
                "what a killed load has left can't be put right",
                () -> DatabaseLoading.clear(session, plan, connector.options().trustDefinitions()));
        loaded |= left == Leftover.FINISHED;
        return left;
    }

    @Override
    public void remove(List<TableName> unwanted) {
        known.forget();
        session.work("the tables can't be taken away", () -> {
            new TableRemoval(session).remove(unwanted);
            return null;
        });
    }

    @Override
    public long delete(Removal removal) {
        return session.work(
                "records of table " + removal.table() + " can't be taken out",
                () -> RecordRemoval.apart(session, removal));
    }

    @Override
    public boolean deletesWithLoads() {
        return true;
    }

    @Override
    public Optional<KeptTables> keptTables() {
        known.forget();
        return dialect.writing().settling().keepsReplaced() ? Optional.of(new KeptAside(session)) : Optional.empty();
    }

    @Override
    public void execute(String statement) {
        known.forget();
        session.work("the statement failed", () -> {
            session.execute(statement);
            session.connection().commit();
            return null;
        });
        loaded = true;
    }

    @Override
    public ViewStatements statements(DocumentView view) {
        return new DocumentViewSql(dialect).statements(view);
    }

    @Override
    public List<Long> count(DocumentView view) {
        return session.work("its documents can't be read", () -> new DocumentViewSql(dialect).count(session, view));
    }

    @Override
    public Optional<String> ownType(LogicalType type) {
        return Optional.of(dialect.types().own(type));
    }

    private DatabaseLoading.Wanted wanted(List<TableDefinition> tables, LoadModes modes, String plan) {
        return new DatabaseLoading.Wanted(
                tables,
                modes,
                connector.options().makeMissing(),
                connector.options().trustDefinitions(),
                plan);
    }

    @Override
    public Loading rehearse(List<TableDefinition> wanted, LoadModes modes) {
        return session.work("the load can't be tried", () -> {
            Rehearsal rehearsal =
                    new Rehearsal(session, wanted, modes, connector.options().trustDefinitions());
            // records may be looked at for hours, and others are to get at the tables meanwhile
            session.rollback();
            return rehearsal;
        });
    }

    /** What was made for a load goes again only while nobody else has put anything into it. */
    private boolean isEmpty() {
        if (session.isEnded()) {
            return false;
        }
        return session.work("its tables can't be listed", () -> {
            session.rollback();
            return session.catalogue().tables().isEmpty();
        });
    }

    @Override
    public void cancel() {
        connector.cancel();
    }

    @Override
    public void close() {
        boolean unused =
                !loaded && (newDatabase || file.filter(TargetFile::isMade).isPresent()) && isEmpty();
        touched.close();
        asking.close();
        session.close();
        if (!unused) {
            return;
        }
        if (newDatabase) {
            try {
                dialect.removeDatabase(connector.address(), connector.options());
            } catch (SQLException e) {
                throw connector.failed("the database was made for nothing and can't be removed: ", e);
            }
        }
        file.ifPresent(TargetFile::remove);
    }
}
