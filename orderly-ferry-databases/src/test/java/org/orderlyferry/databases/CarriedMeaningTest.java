package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.ServiceLoader;
import java.util.TreeMap;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.CheckConstraint;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;

/** A condition that is carried says of every record what it said where it comes from, whatever it is made of. */
class CarriedMeaningTest {

    private static final int CONDITIONS = Integer.getInteger("ferry.conditions", 60);

    private static final TableDefinition SHEET = TableDefinition.named("sheet")
            .column(ColumnDefinition.named("id", LogicalType.INTEGER)
                    .nullable(false)
                    .build())
            .column("a", LogicalType.INTEGER)
            .column("b", LogicalType.INTEGER)
            .column("n", LogicalType.decimal(10, 2))
            .column("f", LogicalType.DOUBLE)
            .column("r", LogicalType.of(TypeName.REAL))
            .column("s", LogicalType.varchar(40))
            .column("t", LogicalType.varchar(40))
            .column("p", LogicalType.BOOLEAN)
            .column("d", LogicalType.DATE)
            .column("c", LogicalType.of(TypeName.CHARACTER, 5))
            .column("e", LogicalType.of(TypeName.TIMESTAMP, 3))
            .primaryKey("id")
            .build();

    private static final List<List<String>> ROWS = List.of(
            Arrays.asList("1", "0", "1", "0", "0", "0", "", "a", "true", "2031-04-09", "a", "2031-04-09T00:00:00"),
            Arrays.asList(
                    "2", "1", "2", "0.1", "0.1", "0.1", "a", "A", "false", "1999-12-31", "ab", "1999-12-31T23:59:59.5"),
            Arrays.asList(
                    "3",
                    "-3",
                    "7",
                    "-2.25",
                    "-2.25",
                    "-2.25",
                    "Ab",
                    "ab",
                    "true",
                    "2000-02-29",
                    "Ab",
                    "2031-04-09T12:00:00"),
            Arrays.asList("4", "7", "-2", "100", "1e10", "0.1", "a%", "a_", null, null, null, null),
            Arrays.asList(
                    "5", null, "3", null, null, null, null, "x", "false", "2031-04-09", "x", "2031-04-09T00:00:00"),
            Arrays.asList(
                    "6",
                    "2",
                    null,
                    "0.05",
                    "0.1",
                    "0.1",
                    "12",
                    "3",
                    "true",
                    "0001-01-01",
                    "12345",
                    "2000-01-01T00:00:00"),
            Arrays.asList(
                    "7",
                    "1000000",
                    "1",
                    "99999999.99",
                    "-0.5",
                    "-0.5",
                    "Ü",
                    "ü",
                    "true",
                    "9999-12-31",
                    "\u00fc",
                    "2031-04-08T00:00:00"),
            Arrays.asList(
                    "8", "5", "5", "5", "5", "5", "it's", "a\\b", "false", "2031-04-10", "", "2031-04-10T00:00:00"),
            Arrays.asList("9", "10", "9", "10", "9", "9", "10", "9", "true", "2031-04-08", "a", null),
            Arrays.asList(
                    "10", "-1", "-1", "-1", "-1", "-1", " a", "a ", "false", "2031-04-09", "b", "2031-04-09T01:00:00"));

    @TempDir
    private Path folder;

    private static Dialect dialect(String system) {
        return ServiceLoader.load(Dialect.class).stream()
                .map(ServiceLoader.Provider::get)
                .filter(d -> d.system().equals(system))
                .findFirst()
                .orElseThrow();
    }

    private static Session open(String system, String url) throws SQLException {
        Dialect dialect = dialect(system);
        Connection connection =
                dialect.connect(PlaceAddress.of(url), OpenOptions.DEFAULT, true).orElseThrow();
        connection.setAutoCommit(true);
        return new Session(url, dialect, connection, t -> t);
    }

    private String loaded(String system) {
        String url = TestSystem.of(system).fresh(folder);
        try (TargetPlace target = Places.openTarget(url)) {
            Load.from(new ListedPlace().with(SHEET, ROWS)).into(target);
        }
        return url;
    }

    /** What a condition says of each record. */
    private static List<String> said(Session session, String condition) throws SQLException {
        String id = session.dialect().quote("id");
        List<String> said = new ArrayList<>();
        try (var statement = session.connection().createStatement();
                var rows = statement.executeQuery("SELECT " + id + ", CASE WHEN " + condition
                        + " THEN 'yes' WHEN NOT (" + condition + ") THEN 'no' END FROM "
                        + session.dialect().quote("sheet")
                        + " ORDER BY " + id)) {
            while (rows.next()) {
                said.add(rows.getString(1) + " " + rows.getString(2));
            }
        }
        return said;
    }

    /** As the system's own catalogue has it. */
    private static Optional<TableDefinition> kept(Session session, String condition) throws SQLException {
        TableName sheet = session.catalogue().tables().stream()
                .filter(t -> t.name().equals("sheet"))
                .findFirst()
                .orElseThrow();
        String columns = String.join(
                ", ",
                SHEET.columns().stream()
                        .map(c -> session.dialect().quote(c.name()) + " "
                                + session.dialect().types().own(c.type()))
                        .toList());
        try {
            session.execute("CREATE TABLE twin (" + columns + ", CONSTRAINT told CHECK (" + condition + "))");
        } catch (SQLException e) {
            return Optional.empty();
        }
        try {
            TableName twin = session.catalogue().tables().stream()
                    .filter(t -> t.name().equalsIgnoreCase("twin"))
                    .findFirst()
                    .orElseThrow();
            List<CheckConstraint> checks = session.catalogue().define(twin).checks();
            return Optional.of(
                    session.catalogue().define(sheet).toBuilder().checks(checks).build());
        } finally {
            session.execute("DROP TABLE twin");
        }
    }

    private static Optional<String> carried(TableDefinition table, Session to) throws SQLException {
        Map<String, String> names = new HashMap<>();
        table.columnNames().forEach(n -> names.put(n, n));
        return to.dialect().writing().adapting(new LoadNotes()).adapt(table, names).checks().stream()
                .map(CheckConstraint::expression)
                .findFirst();
    }

    private Map<String, Session> sheets() throws SQLException {
        Map<String, Session> sheets = new TreeMap<>();
        for (String system : TestSystem.names().toList()) {
            sheets.put(system, open(system, loaded(system)));
        }
        return sheets;
    }

    /** What a system itself says of a condition; nothing where it refuses it. */
    private static Optional<List<String>> meant(Session source, String condition) {
        try {
            return Optional.of(said(source, condition));
        } catch (SQLException e) {
            return Optional.empty();
        }
    }

    private static String there(Session target, String condition) {
        try {
            return said(target, condition).toString();
        } catch (SQLException e) {
            return e.getMessage();
        }
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void whatIsCarriedSaysTheSame(String from) throws Exception {
        Map<String, Session> sheets = sheets();
        Session source = sheets.get(from);
        OddConditions conditions = new OddConditions(from, Long.getLong("ferry.seed", 5), source.dialect()::quote);
        Map<String, Integer> carried = new TreeMap<>();
        for (int i = 0; i < CONDITIONS; i++) {
            String condition = conditions.next();
            Optional<List<String>> meant = meant(source, condition);
            Optional<TableDefinition> table = meant.isEmpty() ? Optional.empty() : kept(source, condition);
            if (table.isEmpty()) {
                continue;
            }
            for (Session target : sheets.values()) {
                String to = target.dialect().system();
                Optional<String> sent = carried(table.get(), target);
                if (sent.isPresent()) {
                    assertThat(there(target, sent.get()))
                            .as("%s in %s, as %s in %s", condition, from, sent.get(), to)
                            .isEqualTo(meant.get().toString());
                    carried.merge(to, 1, Integer::sum);
                }
            }
        }
        for (Session session : sheets.values()) {
            session.close();
        }
        // of the same system nearly all, of another one what is plain
        assertThat(carried.get(from)).isGreaterThan(CONDITIONS / 3);
        assertThat(carried.keySet()).containsExactlyInAnyOrderElementsOf(sheets.keySet());
    }
}
