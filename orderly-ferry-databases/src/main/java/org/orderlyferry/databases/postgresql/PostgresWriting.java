package org.orderlyferry.databases.postgresql;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Adapting;
import org.orderlyferry.databases.dialect.AskedForms;
import org.orderlyferry.databases.dialect.Deed;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.dialect.FurtherTypes;
import org.orderlyferry.databases.dialect.IdentityRestart;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.ReferenceFit;
import org.orderlyferry.databases.dialect.Repertoire;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Settling;
import org.orderlyferry.databases.dialect.ValueLimit;
import org.orderlyferry.databases.dialect.Writing;
import org.orderlyferry.databases.sql.EncodingNames;
import org.orderlyferry.databases.sql.SqlToken;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Enumeration;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.TextForms;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.text.FirstByte;
import org.orderlyferry.record.text.InvalidValueException;

/** How tables and records are put into PostgreSQL. */
final class PostgresWriting implements Writing {

    private static final Pattern CITEXT = Pattern.compile("(?i)(.*\\.)?\"?citext\"?");

    /** The first version in which a collation may take different texts for the same. */
    private static final int NONDETERMINISTIC_SINCE = 12;

    /** The key of an advisory lock: any number that nobody else is likely to take. */
    private static final long LOCK = 0x6f72_6465_726cL;

    private static final ValueLimit NO_NUL = (batch, row, column) -> {
        int end = batch.end(row, column);
        if (FirstByte.of((byte) 0, batch.bytes(), batch.start(row, column), end) < end) {
            throw new InvalidValueException("holds a NUL character, which PostgreSQL's text can't");
        }
    };

    private static final int MOST_LANES = 16;

    /**
     * Encodings of a part of Unicode that have the same characters here as in Java, each tried. Of the others PostgreSQL
     * itself finds what they can't hold, and ends the load.
     */
    private static final Set<String> ENCODINGS_OF_JAVA = Set.of(
            "EUC_CN",
            "EUC_KR",
            "ISO_8859_5",
            "ISO_8859_6",
            "ISO_8859_7",
            "ISO_8859_8",
            "KOI8R",
            "KOI8U",
            "LATIN1",
            "LATIN2",
            "LATIN3",
            "LATIN4",
            "LATIN5",
            "LATIN7",
            "LATIN9",
            "LATIN10",
            "WIN866",
            "WIN874",
            "WIN1250",
            "WIN1251",
            "WIN1252",
            "WIN1253",
            "WIN1254",
            "WIN1255",
            "WIN1256",
            "WIN1257",
            "WIN1258");

    private final PostgresDialect dialect;
    private final DefinitionSql sql;

    PostgresWriting(PostgresDialect dialect) {
        this.dialect = dialect;
        this.sql = new DefinitionSql(dialect);
    }

    @Override
    public Adapting adapting(LoadNotes notes) {
        return new PostgresAdapting(dialect, notes);
    }

    @Override
    public ValueLimit limit(TableName table, ColumnDefinition column, LoadNotes notes) {
        return switch (column.type().name()) {
            case CHARACTER, VARCHAR, CLOB, XML, JSON, ARRAY -> NO_NUL;
            case TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE -> ValueLimit.microseconds(PostgresDialect.SYSTEM);
            default -> ValueLimit.NONE;
        };
    }

    /** All texts of a database are in its one encoding, but one that says of itself to know none, which takes all. */
    @Override
    public Optional<String> characterSet(Session session, String collation) throws SQLException {
        return session.value("SHOW server_encoding").filter(ENCODINGS_OF_JAVA::contains);
    }

    @Override
    public ValueLimit characters(Session session, String characterSet) {
        return Repertoire.of(characterSet, EncodingNames.find(characterSet).orElseThrow());
    }

    @Override
    public Optional<String> trialTable() {
        return Optional.of("CREATE TEMPORARY TABLE");
    }

    /** Those that extensions own, which only who may do anything there can have made. */
    @Override
    public FurtherTypes furtherTypes(Session session) throws SQLException {
        Map<String, String> written = new HashMap<>();
        session.query()
                .each(
                        "SELECT t.typname::text, format_type(t.oid, NULL) FROM pg_type t JOIN pg_depend d ON d.objid = t.oid"
                                + " AND d.classid = 'pg_type'::regclass AND d.refclassid = 'pg_extension'::regclass AND"
                                + " d.deptype = 'e' WHERE t.typtype IN ('b', 'r') AND t.typisdefined AND t.typcategory <> 'A'",
                        row -> written.put(row.getString(1), row.getString(2)));
        return new FurtherTypes(written);
    }

    @Override
    public Optional<String> collation(Session session, String collation) throws SQLException {
        List<String> names = SqlToken.of(collation).stream()
                .filter(SqlToken::isName)
                .map(SqlToken::text)
                .toList();
        String schema = names.size() > 1 ? names.get(0) : "";
        boolean known = session.query()
                .any(
                        "SELECT 1 FROM pg_collation c JOIN pg_namespace n ON n.oid = c.collnamespace WHERE c.collname = CAST(?"
                                + " AS name) AND CASE WHEN CAST(? AS text) = '' THEN n.nspname = ANY"
                                + " (current_schemas(true)) ELSE n.nspname = CAST(? AS name) END AND c.collencoding IN (-1,"
                                + " (SELECT d.encoding FROM pg_database d WHERE d.datname = current_database()))",
                        names.get(names.size() - 1),
                        schema,
                        schema);
        return known ? Optional.of(collation) : Optional.empty();
    }

    /** Most collations only order texts; by others some are equal that differ, and nothing says which. */
    @Override
    public Optional<TextForms> textForms(Supplier<Session> asking, ColumnDefinition column) throws SQLException {
        if (CITEXT.matcher(column.sourceType()).matches()) {
            return column.collation().isEmpty()
                    ? Optional.of(new AskedForms(asking, PostgresWriting::smallLetters))
                    : Optional.empty();
        }
        Session session = asking.get();
        if (column.collation().isEmpty()
                || session.connection().getMetaData().getDatabaseMajorVersion() < NONDETERMINISTIC_SINCE) {
            return Optional.of(TextForms.AS_THEY_ARE);
        }
        boolean[] exact = {false};
        session.query()
                .each(
                        "SELECT collisdeterministic FROM pg_collation WHERE oid = CAST(? AS regcollation)",
                        row -> exact[0] = row.getBoolean(1),
                        column.collation());
        session.rollback();
        return exact[0] ? Optional.of(TextForms.AS_THEY_ARE) : Optional.empty();
    }

    /** What citext compares. */
    private static List<String> smallLetters(Session session, List<String> texts) throws SQLException {
        List<String> small = new ArrayList<>();
        try (PreparedStatement select = session.connection()
                .prepareStatement(
                        "SELECT lower(t.x COLLATE \"default\") FROM unnest(?) WITH ORDINALITY t (x, n) ORDER BY n")) {
            select.setArray(1, session.connection().createArrayOf("text", texts.toArray()));
            try (ResultSet row = select.executeQuery()) {
                while (row.next()) {
                    small.add(row.getString(1));
                }
            }
        }
        return small;
    }

    @Override
    public RecordWriter writer(Session session, TableDefinition into, TableName shown) throws SQLException {
        return new CopyInWriter(session, into, shown);
    }

    @Override
    public String insertClause(TableDefinition table) {
        return sql.overriding(table);
    }

    @Override
    public List<Settling.Step> typeSteps(Session session, TableDefinition table) throws SQLException {
        Map<String, Settling.Step> steps = new LinkedHashMap<>();
        for (ColumnDefinition column : table.columns()) {
            if (column.enumeration().isPresent()) {
                Enumeration enumeration = column.enumeration().get();
                String name = dialect.quote(enumeration.name());
                boolean there = session.value("SELECT to_regtype(" + DefinitionSql.string(name) + ")::text")
                        .isPresent();
                if (!there) {
                    String values = enumeration.values().stream()
                            .map(DefinitionSql::string)
                            .collect(Collectors.joining(", "));
                    steps.put(
                            name,
                            new Settling.Step(
                                    "CREATE TYPE " + name + " AS ENUM (" + values + ")",
                                    new Deed.TypeMade(enumeration.name())));
                }
            }
        }
        return List.copyOf(steps.values());
    }

    @Override
    public List<String> createStatements(TableDefinition table) {
        List<String> parts = table.columns().stream()
                .map(c -> PostgresColumnSql.of(dialect, c))
                .toList();
        List<String> statements = new ArrayList<>();
        statements.add("CREATE TABLE " + dialect.quote(table.name()) + " (\n  " + String.join(",\n  ", parts) + "\n)");
        statements.addAll(sql.comments(table));
        return statements;
    }

    @Override
    public List<String> keyStatements(TableDefinition table) {
        List<String> statements = new ArrayList<>();
        table.primaryKey().ifPresent(key -> statements.add(sql.add(table, sql.primaryKey(key))));
        statements.addAll(sql.keysAndIndexes(table));
        return statements;
    }

    @Override
    public List<String> referenceStatements(TableDefinition table) {
        return sql.references(table);
    }

    @Override
    public List<String> counterStatements(Session session, TableDefinition table) throws SQLException {
        List<String> statements = new ArrayList<>();
        for (ColumnDefinition column : table.columns()) {
            if (column.identity().isPresent()) {
                // a column of an older making has its counter beside it, and not in it
                String counter = ColumnCounters.of(
                        DefinitionSql.string(dialect.quote(table.name())), DefinitionSql.string(column.name()));
                statements.add(
                        "SELECT setval(" + counter + ", " + IdentityRestart.next(session, table, column) + ", false)");
            }
        }
        return statements;
    }

    /** Records stand as they come, and a new table's key is made when all are in. */
    @Override
    public boolean ordersByKey() {
        return false;
    }

    @Override
    public int mostLanes() {
        return MOST_LANES;
    }

    /** A third of a page of 8,192 bytes, less its heads; values are packed first. */
    @Override
    public int bytesOfALongKey() {
        return 2_700;
    }

    /** There has to be an equality of the two: by both as they are, or by what the referring one becomes unasked. */
    @Override
    public boolean canRefer(ColumnDefinition mine, ColumnDefinition its) {
        TypeName from = mine.type().name();
        TypeName to = its.type().name();
        if (mine.enumeration().isPresent() || its.enumeration().isPresent()) {
            return mine.sourceType().equals(its.sourceType());
        } else if (from.isApproximateNumber()) {
            return to.isApproximateNumber();
        } else if (from == TypeName.DECIMAL) {
            return to == TypeName.DECIMAL || to.isApproximateNumber();
        }
        return ReferenceFit.isOfOneKind(mine.type(), its.type());
    }

    @Override
    public Settling settling() {
        return new PostgresSettling(dialect);
    }

    @Override
    public boolean rollsBackDefinitions() {
        return true;
    }

    @Override
    public boolean lock(Session session) throws SQLException {
        return session.value("SELECT pg_try_advisory_lock(" + LOCK + ")").equals(Optional.of("t"));
    }

    @Override
    public Optional<String> strangeOwner(Session session, TableName table) throws SQLException {
        return session.value("SELECT o.rolname FROM pg_class c JOIN pg_roles o ON o.oid = c.relowner WHERE c.oid = "
                + PostgresDialect.regclass(dialect, table) + " AND NOT pg_has_role(o.oid, current_user, 'MEMBER')");
    }

    @Override
    public List<String> schemas(Session session) throws SQLException {
        List<String> schemas = new ArrayList<>();
        session.query().each("SELECT nspname FROM pg_namespace", row -> schemas.add(row.getString(1)));
        return schemas;
    }
}
