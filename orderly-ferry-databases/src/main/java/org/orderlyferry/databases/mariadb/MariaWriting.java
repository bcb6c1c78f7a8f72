package org.orderlyferry.databases.mariadb;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Adapting;
import org.orderlyferry.databases.dialect.BrokenRule;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.IdentityRestart;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.ReferenceFit;
import org.orderlyferry.databases.dialect.ReferenceRules;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.databases.dialect.ValueLimit;
import org.orderlyferry.databases.dialect.Writing;
import org.orderlyferry.databases.lane.BatchWriter;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.TextForms;
import org.orderlyferry.record.RecordWriter;

/** How tables and records are put into MariaDB. */
final class MariaWriting implements Writing {

    private static final int MOST_LANES = 16;

    private final MariaDialect dialect;
    private final DefinitionSql sql;

    MariaWriting(MariaDialect dialect) {
        this.dialect = dialect;
        this.sql = new DefinitionSql(dialect);
    }

    @Override
    public Adapting adapting(LoadNotes notes) {
        return new MariaAdapting(dialect, notes);
    }

    /** A small number may be kept in what is BOOLEAN there. */
    @Override
    public ColumnDefinition taking(ColumnDefinition held, LogicalType comes) {
        boolean small =
                held.type().name() == TypeName.BOOLEAN && held.sourceType().startsWith("tinyint");
        return small && comes.name().isExactNumber() ? held.withType(LogicalType.SMALLINT) : held;
    }

    @Override
    public ValueLimit limit(TableName table, ColumnDefinition column, LoadNotes notes) {
        ValueLimit fraction = ValueLimit.microseconds(MariaDialect.SYSTEM);
        return switch (column.type().name()) {
            case REAL, DOUBLE -> ValueLimit.finite(MariaDialect.SYSTEM);
            case DATE -> ValueLimit.years(MariaDialect.SYSTEM + "'s dates");
            case TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE ->
                fraction.and(ValueLimit.years(MariaDialect.SYSTEM + "'s dates"));
            case TIME -> fraction;
            default -> ValueLimit.NONE;
        };
    }

    @Override
    public Optional<String> characterSet(Session session, String collation) {
        return AskedRepertoire.set(collation);
    }

    @Override
    public ValueLimit characters(Session session, String characterSet) throws SQLException {
        return AskedRepertoire.of(session, characterSet);
    }

    @Override
    public Optional<TextForms> textForms(Supplier<Session> asking, ColumnDefinition column) {
        return SortKeys.of(asking, column.collation());
    }

    @Override
    public RecordWriter writer(Session session, TableDefinition into, TableName shown) throws SQLException {
        List<String> names = into.columns().stream()
                .filter(c -> c.generation().isEmpty())
                .map(ColumnDefinition::name)
                .toList();
        String values = names.stream().map(n -> "?").collect(Collectors.joining(", "));
        RecordWriter batches = new BatchWriter(
                session,
                "INSERT INTO " + dialect.quote(into.name()) + " (" + sql.names(names) + ") VALUES (" + values + ")",
                into,
                shown,
                false,
                c -> MariaCells.binder(c.type()));
        return isLocalAllowed(session) ? new LoadDataWriter(session, into, shown, batches) : batches;
    }

    private static boolean isLocalAllowed(Session session) throws SQLException {
        return session.value("SELECT @@local_infile").equals(Optional.of("1"));
    }

    @Override
    public Optional<String> laneNotice(Session session) throws SQLException {
        return isLocalAllowed(session)
                ? Optional.empty()
                : Optional.of("the server forbids LOAD DATA LOCAL (local_infile is off), so records are inserted in"
                        + " batches, which takes longer");
    }

    @Override
    public List<String> createStatements(TableDefinition table) {
        List<String> parts = new ArrayList<>();
        table.columns().forEach(c -> parts.add(MariaColumnSql.of(dialect, c)));
        // here and not afterwards: InnoDB keeps rows in the order of this key, and a counter has to be one
        table.primaryKey().ifPresent(key -> parts.add("PRIMARY KEY " + primary(table, key)));
        Optional<Key> unique = uniqueOfCounter(table);
        unique.ifPresent(key -> parts.add(sql.unique(key)));
        if (unique.isEmpty()) {
            indexOfCounter(table).ifPresent(index -> parts.add(sql.indexPart(index)));
        }
        String comment = table.comment().isEmpty() ? "" : " COMMENT = " + DefinitionSql.string(table.comment());
        // compared by bytes, with blanks at the end, so that unique keys forbid no more than elsewhere
        return List.of("CREATE TABLE " + dialect.quote(table.name()) + " (\n  " + String.join(",\n  ", parts)
                + "\n) ENGINE = InnoDB DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin" + comment);
    }

    private String primary(TableDefinition table, Key key) {
        return key.columns().stream()
                .map(c -> {
                    int beginning = KeyRoom.ofPrimary(table, c);
                    return dialect.quote(c) + (beginning > 0 ? "(" + beginning + ")" : "");
                })
                .collect(Collectors.joining(", ", "(", ")"));
    }

    @Override
    public List<String> keyStatements(TableDefinition table) {
        List<String> additions = new ArrayList<>();
        Optional<Key> unique = uniqueOfCounter(table);
        Optional<IndexDefinition> made = unique.isPresent() ? Optional.empty() : indexOfCounter(table);
        table.uniqueKeys().stream()
                .filter(key -> !unique.equals(Optional.of(key)))
                .forEach(key -> additions.add("ADD " + sql.unique(key)));
        table.checks().forEach(check -> additions.add("ADD " + sql.check(check)));
        List<String> statements = new ArrayList<>();
        if (!additions.isEmpty()) {
            statements.add("ALTER TABLE " + dialect.quote(table.name()) + " " + String.join(", ", additions));
        }
        table.indexes().stream()
                .filter(index -> !made.equals(Optional.of(index)))
                .forEach(index -> statements.add(sql.index(table.name(), index)));
        return statements;
    }

    /** The column that counts, where the primary key doesn't begin with it: then something else has to, from the start. */
    private static Optional<String> counterElsewhere(TableDefinition table) {
        return table.columns().stream()
                .filter(c -> c.identity().isPresent())
                .map(ColumnDefinition::name)
                .filter(c -> table.primaryKey()
                        .filter(k -> k.columns().get(0).equals(c))
                        .isEmpty())
                .findFirst();
    }

    private static Optional<Key> uniqueOfCounter(TableDefinition table) {
        return counterElsewhere(table).flatMap(c -> table.uniqueKeys().stream()
                .filter(k -> k.columns().get(0).equals(c))
                .findFirst());
    }

    private static Optional<IndexDefinition> indexOfCounter(TableDefinition table) {
        return counterElsewhere(table).flatMap(c -> table.indexes().stream()
                .filter(i -> i.own().isEmpty() && i.parts().get(0).column().equals(c))
                .findFirst());
    }

    @Override
    public Optional<String> temporaryTable() {
        return Optional.of("CREATE TEMPORARY TABLE");
    }

    /** Those that every character set has are listed without one. */
    @Override
    public Optional<String> collation(Session session, String collation) throws SQLException {
        for (String name : List.of(collation, CharacterSets.older(collation))) {
            if (session.query()
                    .any(
                            "SELECT 1 FROM information_schema.COLLATIONS WHERE COLLATION_NAME IN (?, ?)",
                            name,
                            name.substring(name.indexOf('_') + 1))) {
                return Optional.of(name);
            }
        }
        return Optional.empty();
    }

    @Override
    public String dropTemporary(String quoted) {
        return "DROP TEMPORARY TABLE " + quoted;
    }

    /** A reference's name is the database's, so references are added when the table they replace has lost its own. */
    @Override
    public List<String> referenceStatements(TableDefinition table) {
        return List.of();
    }

    @Override
    public Optional<String> brokenReference(Session session, TableDefinition table, TableName shown)
            throws SQLException {
        return new BrokenRule(session).missingReference(table, shown);
    }

    @Override
    public List<String> counterStatements(Session session, TableDefinition table) throws SQLException {
        List<String> statements = new ArrayList<>();
        for (ColumnDefinition column : table.columns()) {
            if (column.identity().isPresent()) {
                statements.add("ALTER TABLE " + dialect.quote(table.name()) + " AUTO_INCREMENT = "
                        + Math.max(1, IdentityRestart.next(session, table, column)));
            }
        }
        return statements;
    }

    @Override
    public ReferenceRules references() {
        Set<ReferentialAction> had = EnumSet.complementOf(EnumSet.of(ReferentialAction.SET_DEFAULT));
        return new ReferenceRules(had, had, true, ReferenceRules.Paths.ANY, ReferenceRules.Referred.LEADING);
    }

    /** Lengths of texts need not be the same; what one of them can't hold is refused as a value. */
    @Override
    public boolean canRefer(ColumnDefinition mine, ColumnDefinition its) {
        return ReferenceFit.isSame(mine, its)
                || mine.collation().equals(its.collation())
                        && withoutLength(mine).equals(withoutLength(its))
                        && withoutLength(mine).startsWith("var");
    }

    private static String withoutLength(ColumnDefinition column) {
        return column.sourceType().toLowerCase(Locale.ROOT).replaceFirst("\\(\\d+\\)$", "");
    }

    @Override
    public int mostLanes() {
        return MOST_LANES;
    }

    @Override
    public Settling settling() {
        return new MariaSettling(dialect);
    }

    @Override
    public boolean rollsBackDefinitions() {
        return false;
    }

    @Override
    public boolean lock(Session session) throws SQLException {
        return session.value("SELECT GET_LOCK(CONCAT('orderly_ferry ', DATABASE()), 0)")
                .equals(Optional.of("1"));
    }
}
