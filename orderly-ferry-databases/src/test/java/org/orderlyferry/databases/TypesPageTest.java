package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.ServiceLoader;
import java.util.TimeZone;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.SystemSql;
import org.orderlyferry.databases.dialect.TypeMapping;
import org.orderlyferry.databases.driver.DriverDialect;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.tally.ComparisonForm;
import org.orderlyferry.testkit.servers.TestSystem;

/** The page about types says what the code does, and what the code says is so on the real systems, line by line. */
class TypesPageTest {

    private static final Path PAGE = Path.of("..", "docs", "types.md");

    @TempDir
    private Path folder;

    private static List<Dialect> dialects() {
        Map<String, Dialect> byName = new TreeMap<>();
        ServiceLoader.load(Dialect.class).forEach(d -> byName.put(d.system(), d));
        return List.copyOf(byName.values());
    }

    /** With those that are known by their SQL alone. */
    private static List<SystemSql> systems() {
        Map<String, SystemSql> byName = new TreeMap<>();
        dialects().forEach(d -> byName.put(d.system(), d));
        ServiceLoader.load(SystemSql.class).forEach(s -> byName.put(s.system(), s));
        return List.copyOf(byName.values());
    }

    private static final List<LogicalType> LOGICAL = List.of(
            LogicalType.BOOLEAN,
            LogicalType.SMALLINT,
            LogicalType.INTEGER,
            LogicalType.BIGINT,
            LogicalType.decimal(12, 2),
            LogicalType.decimal(38, 10),
            LogicalType.of(TypeName.DECIMAL),
            LogicalType.REAL,
            LogicalType.DOUBLE,
            LogicalType.of(TypeName.CHARACTER, 8),
            LogicalType.varchar(40),
            LogicalType.of(TypeName.VARCHAR),
            LogicalType.CLOB,
            LogicalType.of(TypeName.BINARY, 8),
            LogicalType.of(TypeName.VARBINARY, 40),
            LogicalType.BLOB,
            LogicalType.DATE,
            LogicalType.of(TypeName.TIME, 3),
            LogicalType.of(TypeName.TIMESTAMP, 6),
            LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, 6),
            LogicalType.INTERVAL,
            LogicalType.UUID,
            LogicalType.JSON,
            LogicalType.XML,
            LogicalType.arrayOf(LogicalType.INTEGER));

    private static String page() {
        StringBuilder page = new StringBuilder(
                """
                # Types

                This page is printed from the code and compared with it by a test, which also tries each line on the real
                systems, but for Oracle and SQL Server, of which there were stand-ins only. To write it anew: `mvn test -pl orderly-ferry-databases -am -Dtest=TypesPageTest -Dferry.write.docs=true
                -Dsurefire.failIfNoSpecifiedTests=false`.

                ## How a system holds a logical type

                """);
        List<String> names = systems().stream().map(SystemSql::system).toList();
        page.append("| logical type | ").append(String.join(" | ", names)).append(" |\n|---");
        names.forEach(n -> page.append("|---"));
        page.append("|\n");
        for (LogicalType type : LOGICAL) {
            page.append("| ").append(type);
            systems().forEach(d -> page.append(" | ").append(d.types().own(type)));
            page.append(" |\n");
        }
        for (SystemSql dialect : systems()) {
            page.append("\n## ")
                    .append(dialect.system())
                    .append(
                            """


                    | own type | logical type |
                    |---|---|
                    """);
            for (String own : dialect.types().examples()) {
                page.append("| ")
                        .append(own.isEmpty() ? "(none)" : own)
                        .append(" | ")
                        .append(dialect.types().logical(own))
                        .append(" |\n");
            }
        }
        page.append(byDrivers());
        page.append(
                """

                Types that none of these lines name are carried as text, as their system writes it; `look` and `export` list
                such columns. Columns of the same system keep their own type. MariaDB's `tinyint(1)` is BOOLEAN as long as it
                has no other values than 0 and 1 and refers to no number, and SMALLINT where it has or does. An array travels as JSON, its elements as value
                text, so that one of documents has them as strings.

                ## When two values are equal

                Reconciling brings both values into one form, chosen by the types of the two columns:

                | one side | other side | rule |
                |---|---|---|
                """);
        for (Map.Entry<String, String> line : rules().entrySet()) {
            page.append("| ")
                    .append(line.getKey())
                    .append(" | ")
                    .append(line.getValue())
                    .append(" |\n");
        }
        page.append("\nAny other two types: equal to the byte.\n");
        return page.toString();
    }

    /** Types of systems that are known by their drivers alone, as these tell of them. */
    private static String byDrivers() {
        Map<String, TypeMapping> types = new LinkedHashMap<>();
        TimeZone usual = TimeZone.getDefault();
        // Derby's driver is refused where a zone leaves out hours
        TimeZone.setDefault(TimeZone.getTimeZone("UTC"));
        for (String url : List.of("jdbc:derby:memory:types;create=true", "jdbc:hsqldb:mem:types;user=SA")) {
            try {
                DriverDialect.Opened opened = DriverDialect.open(PlaceAddress.of(url), OpenOptions.DEFAULT, true)
                        .orElseThrow();
                types.put(opened.dialect().system(), opened.dialect().types());
                opened.connection().close();
            } catch (SQLException e) {
                throw new IllegalStateException(url, e);
            }
        }
        TimeZone.setDefault(usual);
        StringBuilder page = new StringBuilder(
                """

                ## Systems that are known by their drivers

                What their drivers tell, and what came back when they were asked to cast. Where there is a – nothing holds it, and a load with
                such a column is refused. DuckDB's driver tells of no types.

                """);
        page.append("| logical type | ")
                .append(String.join(" | ", types.keySet()))
                .append(" |\n|---");
        types.forEach((n, t) -> page.append("|---"));
        page.append("|\n");
        for (LogicalType type : LOGICAL) {
            page.append("| ").append(type);
            types.values().forEach(t -> page.append(" | ").append(held(t, type)));
            page.append(" |\n");
        }
        types.forEach((name, mapping) -> {
            page.append("\n| ").append(name).append("'s own type | logical type |\n|---|---|\n");
            mapping.examples().stream().distinct().forEach(own -> page.append("| ")
                    .append(own)
                    .append(" | ")
                    .append(mapping.logical(own))
                    .append(" |\n"));
        });
        return page.toString();
    }

    private static String held(TypeMapping types, LogicalType type) {
        try {
            return types.own(type);
        } catch (IllegalStateException e) {
            return "–";
        }
    }

    private static Map<String, String> rules() {
        Map<ComparisonForm, Map<String, List<String>>> pairs = new LinkedHashMap<>();
        for (TypeName one : TypeName.values()) {
            for (TypeName other : TypeName.values()) {
                ComparisonForm form = ComparisonForm.between(type(one), type(other));
                if (form != ComparisonForm.EXACT) {
                    pairs.computeIfAbsent(form, f -> new LinkedHashMap<>())
                            .computeIfAbsent(one.sql(), o -> new ArrayList<>())
                            .add(other.sql());
                }
            }
        }
        Map<String, String> lines = new LinkedHashMap<>();
        pairs.forEach((form, sides) ->
                sides.forEach((one, others) -> lines.put(one + " | " + String.join(", ", others), form.rule())));
        return lines;
    }

    private static LogicalType type(TypeName name) {
        return name == TypeName.ARRAY ? LogicalType.arrayOf(LogicalType.INTEGER) : LogicalType.of(name);
    }

    @Test
    void thePageSaysWhatTheCodeDoes() throws Exception {
        if (Boolean.getBoolean("ferry.write.docs")) {
            Files.writeString(PAGE, page());
        }
        assertThat(Files.readString(PAGE)).isEqualTo(page());
    }

    private String url(String system) throws SQLException {
        return TestSystem.of(system).fresh(folder);
    }

    @Test
    void eachLineIsSoOnTheRealSystem() throws Exception {
        for (Dialect dialect : dialects()) {
            List<String> types = new ArrayList<>(dialect.types().examples());
            int examples = types.size();
            LOGICAL.forEach(t -> types.add(dialect.types().own(t)));
            String url = url(dialect.system());
            try (Connection connection = dialect.system().equals("H2")
                            ? DriverManager.getConnection(url, "sa", "")
                            : DriverManager.getConnection(url);
                    Statement statement = connection.createStatement()) {
                for (int i = 0; i < types.size(); i++) {
                    statement.execute("CREATE TABLE " + dialect.quote("t" + i) + " (" + dialect.quote("c") + " "
                            + types.get(i) + ")");
                }
            }
            try (Place place = Places.open(url)) {
                for (int i = 0; i < types.size(); i++) {
                    var column = place.define(TableName.of("t" + i)).columns().get(0);
                    LogicalType said = dialect.types().logical(i < examples ? types.get(i) : column.sourceType());
                    if (column.enumeration().isPresent()) {
                        assertThat(column.enumeration().get().values()).containsExactly("moss", "fern");
                    } else if (i < examples || !dialect.system().equals("MariaDB")) {
                        assertThat(column.type())
                                .as("%s: %s, read as %s", dialect.system(), types.get(i), column.sourceType())
                                .isEqualTo(said);
                    }
                }
            }
        }
    }
}
