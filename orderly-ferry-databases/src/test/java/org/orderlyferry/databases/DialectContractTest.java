package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.ServiceLoader;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.NamingRules;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.testkit.herbarium.HostileTexts;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;

/** What every registered {@link Dialect} keeps, on a real database of its system: a new one is tested by being registered. */
class DialectContractTest {

    @TempDir
    private Path folder;

    static Stream<Dialect> dialects() {
        return ServiceLoader.load(Dialect.class).stream().map(ServiceLoader.Provider::get);
    }

    private String url(Dialect dialect) {
        return TestSystem.of(dialect.system()).fresh(folder);
    }

    private static Session open(Dialect dialect, String url, boolean write) throws SQLException {
        Connection connection = dialect.connect(PlaceAddress.of(url), OpenOptions.DEFAULT, write)
                .orElseThrow();
        connection.setAutoCommit(false);
        if (!write) {
            dialect.reading().prepare(connection);
        }
        return new Session(url, dialect, connection, t -> t);
    }

    /** Names that the system takes, by its own rules. */
    private static List<String> takenNames(Dialect dialect) {
        NamingRules rules = dialect.naming();
        List<String> names = new ArrayList<>(HostileTexts.ALL);
        names.addAll(List.of("select", "SELECT", "a\"b", "a`b", "a'b", "a]b", "a;--", "x y", "1", "ü山🌿"));
        if (rules.longest() > 0) {
            names.add("n".repeat(rules.longest()));
        }
        return names.stream()
                .filter(n -> !n.isEmpty() && n.codePoints().allMatch(rules.allowed()))
                .filter(n -> !rules.endsWrong(n))
                .filter(n -> rules.longest() == 0
                        || n.getBytes(java.nio.charset.StandardCharsets.UTF_8).length <= rules.longest())
                .toList();
    }

    @ParameterizedTest
    @MethodSource("dialects")
    void aNameInQuotesIsThatNameAndNothingElse(Dialect dialect) throws Exception {
        String url = url(dialect);
        List<String> names = takenNames(dialect);
        assertThat(names).hasSizeGreaterThan(20);
        try (Session session = open(dialect, url, true)) {
            for (String name : names) {
                session.execute("CREATE TABLE " + dialect.quote(name) + " (" + dialect.quote(name) + " INTEGER)");
                session.connection().commit();
                TableName there = session.catalogue().tables().stream()
                        .filter(t -> t.name().equals(name))
                        .findFirst()
                        .orElseThrow(() -> new AssertionError(dialect.system() + " lost " + name));
                assertThat(session.catalogue().define(there).columnNames()).containsExactly(name);
                assertThat(session.count(there)).isZero();
                session.execute("DROP TABLE " + dialect.quote(there));
                session.connection().commit();
            }
        }
    }

    @ParameterizedTest
    @MethodSource("dialects")
    void aTextInASliceIsAValueAndNothingElse(Dialect dialect) throws Exception {
        String url = url(dialect);
        TestSystem system = TestSystem.of(dialect.system());
        Databases.run(url, "CREATE TABLE " + system.quote("t") + " (" + system.quote("v") + " VARCHAR(400))");
        ColumnDefinition column = ColumnDefinition.of("v", LogicalType.varchar(400));
        try (Session session = open(dialect, url, false)) {
            for (String text : HostileTexts.ALL) {
                String condition = " WHERE " + dialect.quote("v") + " >= "
                        + dialect.reading().literal(column, text);
                assertThat(session.value("SELECT COUNT(*) FROM " + dialect.quote("t") + condition))
                        .as(text)
                        .contains("0");
            }
        }
    }

    /** A database may have thousands of tables, of which a load concerns one. */
    @ParameterizedTest
    @MethodSource("dialects")
    void whatIsToldOfAllTablesAtOnceIsWhatTheirDefinitionsSay(Dialect dialect) throws Exception {
        String url = url(dialect);
        String odd = dialect.quote("a b.c");
        Databases.run(
                url,
                "CREATE TABLE bed (id INT PRIMARY KEY, code VARCHAR(9) UNIQUE, up INT REFERENCES bed (id))",
                "CREATE INDEX bed_up ON bed (up, code)",
                "CREATE TABLE " + odd + " (id INT PRIMARY KEY, bed INT, FOREIGN KEY (bed) REFERENCES bed (id))",
                "CREATE TABLE leaf (id INT PRIMARY KEY, o INT, bed INT, FOREIGN KEY (o) REFERENCES " + odd
                        + " (id), FOREIGN KEY (bed) REFERENCES bed (id))",
                "CREATE TABLE still (id INT)");
        if (dialect.system().equals("PostgreSQL")) {
            Databases.run(
                    url,
                    "CREATE SCHEMA other",
                    "CREATE TABLE other.bed (id INT PRIMARY KEY)",
                    "CREATE TABLE other.leaf (id INT REFERENCES public.bed, b INT REFERENCES other.bed)",
                    "CREATE TABLE cut (id INT, bed INT REFERENCES bed) PARTITION BY RANGE (id)",
                    "CREATE TABLE cut_one PARTITION OF cut FOR VALUES FROM (1) TO (9)");
        }
        try (Session session = open(dialect, url, true)) {
            Catalogue catalogue = session.catalogue();
            List<TableName> tables = catalogue.tables();
            Map<TableName, List<String>> names = catalogue.indexNames();
            for (TableName table : tables) {
                List<TableName> referring = new ArrayList<>();
                for (TableName other : tables) {
                    if (catalogue.define(other).foreignKeys().stream()
                            .anyMatch(k -> k.target().equals(table))) {
                        referring.add(other);
                    }
                }
                List<TableName> told = catalogue.referrers(Set.of(table));
                assertThat(told).as(table.text()).containsAll(referring);
                assertThat(told).as(table.text()).isSubsetOf(tables);
                assertThat(told.size()).as(table.text()).isIn(referring.size(), tables.size());
                TableDefinition definition = catalogue.define(table);
                List<String> its = new ArrayList<>();
                definition.primaryKey().ifPresent(k -> its.add(k.name()));
                definition.uniqueKeys().forEach(k -> its.add(k.name()));
                definition.indexes().forEach(i -> its.add(i.name()));
                assertThat(names.getOrDefault(table, List.of()))
                        .as(table.text())
                        .containsExactlyInAnyOrderElementsOf(its);
            }
            assertThat(catalogue.referrers(Set.of())).isEmpty();
            assertThat(catalogue.referrers(Set.copyOf(tables))).hasSizeGreaterThanOrEqualTo(3);
        }
    }

    @ParameterizedTest
    @MethodSource("dialects")
    void severalStatementsInOneAreNotSent(Dialect dialect) throws Exception {
        String url = url(dialect);
        try (Session session = open(dialect, url, true)) {
            session.execute("CREATE TABLE " + dialect.quote("kept") + " (n INTEGER)");
            session.connection().commit();
            for (String sql : List.of(
                    "SELECT 1; DROP TABLE kept",
                    "SELECT 1;\nSELECT 2",
                    "SELECT ';'; SELECT 2",
                    "SELECT 1 /* ; */; SELECT 2")) {
                assertThatThrownBy(() -> session.execute(sql)).hasMessageContaining("isn't one statement");
                assertThatThrownBy(() -> session.update(sql)).isInstanceOf(SQLException.class);
                assertThatThrownBy(() -> session.value(sql)).isInstanceOf(SQLException.class);
            }
            assertThat(session.value("SELECT ';'")).contains(";");
            assertThat(session.catalogue().tables()).extracting(TableName::name).contains("kept");
        }
    }

    @ParameterizedTest
    @MethodSource("dialects")
    void whatIsOpenedToBeReadCantBeWrittenTo(Dialect dialect) throws Exception {
        String url = url(dialect);
        TestSystem system = TestSystem.of(dialect.system());
        Databases.run(url, "CREATE TABLE " + system.quote("kept") + " (n INTEGER)");
        try (Session session = open(dialect, url, false)) {
            for (String sql : List.of(
                    "INSERT INTO " + dialect.quote("kept") + " VALUES (1)",
                    "DROP TABLE " + dialect.quote("kept"),
                    "CREATE TABLE " + dialect.quote("other") + " (n INTEGER)")) {
                assertThatThrownBy(() -> session.execute(sql)).as(sql).isInstanceOf(SQLException.class);
                session.rollback();
            }
        }
        assertThat(Databases.rows(url, "SELECT COUNT(*) FROM " + system.quote("kept")))
                .containsExactly("0");
    }

    /** Each type that the system is said to have is one: a table of them can be made, and tells the same types. */
    @ParameterizedTest
    @MethodSource("dialects")
    void theTypesThatItNamesAreItsOwn(Dialect dialect) throws Exception {
        String url = url(dialect);
        List<LogicalType> types = Stream.of(TypeName.values())
                .filter(n -> n != TypeName.ARRAY)
                .map(n -> switch (n) {
                    case CHARACTER, VARCHAR, BINARY, VARBINARY -> LogicalType.of(n, 7);
                    case DECIMAL -> LogicalType.decimal(9, 2);
                    case TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE -> LogicalType.of(n, 3);
                    default -> LogicalType.of(n);
                })
                .filter(t -> !dialect.types().own(t).isEmpty())
                .toList();
        assertThat(types).hasSizeGreaterThan(5);
        try (Session session = open(dialect, url, true)) {
            session.execute("CREATE TABLE " + dialect.quote("t") + " ("
                    + types.stream()
                            .map(t -> dialect.quote(t.toString()) + " "
                                    + dialect.types().own(t))
                            .collect(Collectors.joining(", "))
                    + ")");
            session.connection().commit();
            TableName there = session.catalogue().tables().get(0);
            for (ColumnDefinition column : session.catalogue().define(there).columns()) {
                LogicalType meant = LogicalType.parse(column.name());
                if (dialect.types().own(column.type()).equals(dialect.types().own(meant))) {
                    continue;
                }
                // what comes back as another type is held by that one
                assertThat(column.type().name().isText()
                                || column.type().name() == meant.name()
                                || column.type().name().isBinary()
                                        == meant.name().isBinary())
                        .as(dialect.system() + ": " + meant + " became " + column.type())
                        .isTrue();
            }
        }
    }

    @ParameterizedTest
    @MethodSource("dialects")
    void endingWhatDoesNothingHarmsNobody(Dialect dialect) throws Exception {
        try (Session session = open(dialect, url(dialect), true)) {
            dialect.cancel(session.connection());
            session.cancel();
            assertThatThrownBy(() -> session.execute("SELECT 1")).hasMessageContaining("told to stop");
            session.resume();
            assertThat(session.value("SELECT 7")).contains("7");
        }
    }

    @ParameterizedTest
    @MethodSource("dialects")
    void anAddressOfAnotherSystemIsNotItsOwn(Dialect dialect) throws Exception {
        for (TestSystem other : TestSystem.values()) {
            if (!other.toString().equals(dialect.system())) {
                assertThat(dialect.connect(PlaceAddress.of(other.fresh(folder)), OpenOptions.DEFAULT, false))
                        .as(dialect.system() + " and " + other)
                        .isEmpty();
            }
        }
        assertThat(dialect.connect(PlaceAddress.of(folder.resolve("none.csv").toString()), OpenOptions.DEFAULT, false))
                .isEmpty();
        assertThat(dialect.connect(PlaceAddress.of("jdbc:nothing:x"), OpenOptions.DEFAULT, false))
                .isEmpty();
    }
}
