package org.orderlyferry.databases.script;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import net.sf.jsqlparser.parser.CCJSqlParserUtil;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.testkit.doubles.Contents;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.generated.GeneratedRows;
import org.orderlyferry.testkit.generated.GeneratedTables;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.testkit.herbarium.HostileTexts;
import org.orderlyferry.work.Load;

/**
 * Scripts for systems of which no server runs here: they are read back, taken by somebody else's parser, spelt as H2 takes it
 * in the system's mode, and hold nothing that a shell would take for its own.
 */
class UnmetSystemsTest {

    @TempDir
    static Path folder;

    private static Path old;

    @BeforeAll
    static void makeAHerbarium() throws Exception {
        old = folder.resolve("old.mv.db");
        new Herbarium().specimens(150).readings(1_100).commonDates(true).create(old);
    }

    private static OpenOptions in(String dialect) {
        return OpenOptions.builder()
                .files(FileSettings.NONE.with("dialect", dialect))
                .build();
    }

    private static Path script(String dialect, Place source, String... tables) {
        Path script = folder.resolve(dialect + "-" + System.nanoTime() + ".sql");
        try (TargetPlace target = Places.openTarget(PlaceAddress.of(script), in(dialect))) {
            Load.from(source).tables(tables).into(target);
        }
        return script;
    }

    /** What Oracle holds as null, and what is too long for its literals, is refused by name elsewhere. */
    private static Path herbarium(String dialect) {
        Path known = folder.resolve(dialect + "-herbarium.sql");
        if (Files.exists(known)) {
            return known;
        }
        try (Place source = Places.open(old.toString())) {
            boolean oracle = dialect.equals("oracle");
            String[] tables = source.tables().stream()
                    .map(TableName::toString)
                    .filter(t -> !t.equals("calibration"))
                    .filter(t ->
                            !oracle || !List.of("label_draft", "sheet_image").contains(t))
                    .toArray(String[]::new);
            try (TargetPlace target = Places.openTarget(PlaceAddress.of(known), in(dialect))) {
                Load.from(source).tables(tables).rejects(why -> {}).into(target);
            }
            return known;
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"sqlserver", "oracle"})
    void aScriptIsReadBackWithAllDefinitionsAndRecords(String dialect) {
        Path script = herbarium(dialect);
        try (Place source = Places.open(old.toString());
                Place read = Places.open(script.toString())) {
            assertThat(read.leftBehind()).isEmpty();
            for (TableName table : read.tables()) {
                TableDefinition meant = source.define(table);
                TableDefinition there = read.define(table);
                assertThat(there.primaryKey().map(k -> k.columns()))
                        .isEqualTo(meant.primaryKey().map(k -> k.columns()));
                assertThat(there.foreignKeys())
                        .extracting(k -> k.columns() + " " + k.target() + " " + k.targetColumns())
                        .isEqualTo(meant.foreignKeys().stream()
                                .map(k -> k.columns() + " " + k.target() + " " + k.targetColumns())
                                .toList());
                assertThat(there.comment()).isEqualTo(meant.comment());
                assertThat(there.columns())
                        .extracting(c -> c.nullable() + " " + c.comment() + " "
                                + c.identity().isPresent() + " "
                                + c.defaultValue().isPresent())
                        .isEqualTo(meant.columns().stream()
                                .map(c -> c.nullable() + " " + c.comment() + " "
                                        + c.identity().isPresent() + " "
                                        + c.defaultValue().isPresent())
                                .toList());
                if (!table.name().equals("specimen") && meant.columnNames().equals(there.columnNames())) {
                    ReconcileResult result = Reconcile.between(source, read)
                            .tables(table.toString())
                            .compare();
                    assertThat(result.isEqual()).as(result.toString()).isTrue();
                }
            }
        }
    }

    /** A script's statements without what shells take for themselves. */
    private static List<String> statements(Path script) throws Exception {
        List<String> statements = new ArrayList<>();
        StringBuilder statement = new StringBuilder();
        for (String line : Files.readAllLines(script)) {
            if (line.equals("GO")
                    || line.startsWith("--")
                    || line.matches("(WHENEVER|PROMPT|SET (DEFINE|SQLBLANKLINES|NOEXEC)) .*")
                    || line.startsWith("IF @")
                    || line.startsWith("IF LEN")) {
                continue;
            }
            statement.append(statement.isEmpty() ? "" : "\n").append(line);
            if (line.endsWith(";")) {
                statement.setLength(statement.length() - 1);
                statements.add(statement.toString());
                statement.setLength(0);
            }
        }
        assertThat(statement).isEmpty();
        return statements;
    }

    @ParameterizedTest
    @ValueSource(strings = {"sqlserver", "oracle"})
    void somebodyElsesParserTakesEachStatement(String dialect) throws Exception {
        List<String> statements = statements(herbarium(dialect));
        assertThat(statements).hasSizeGreaterThan(20);
        int parsed = 0;
        for (String sql : statements) {
            boolean known = sql.startsWith("INSERT") || sql.startsWith("CREATE") || sql.startsWith("ALTER TABLE");
            // procedures and what only the system has are in no general grammar
            if (known
                    && !sql.contains(" GENERATED ")
                    && !sql.contains("WITH TIME ZONE '")
                    && !sql.contains(" IS NOT NULL")
                    && !sql.contains(" ADD CHECK")) {
                CCJSqlParserUtil.parse(
                        sql.replace(" CHAR)", ")").replaceAll("(?m)(?<=\\d)[df](?=,$|\\)$)", ""),
                        parser -> parser.withSquareBracketQuotation(dialect.equals("sqlserver"))
                                .withTimeOut(60_000));
                parsed++;
            }
        }
        assertThat(parsed).isGreaterThan(20);
    }

    /** H2 takes many words of these systems: it shows the spelling, and nothing of what a server would do. */
    @ParameterizedTest
    @ValueSource(strings = {"sqlserver", "oracle"})
    void h2TakesTheSpellingInTheSystemsMode(String dialect) throws Exception {
        String url = "jdbc:h2:mem:" + dialect + ";MODE=" + (dialect.equals("oracle") ? "Oracle" : "MSSQLServer");
        int[] rows = new int[1];
        try (Connection connection = DriverManager.getConnection(url, "sa", "");
                Statement statement = connection.createStatement()) {
            statement.execute(
                    "CREATE ALIAS IF NOT EXISTS NCHAR AS 'String nchar(int code) { return String.valueOf((char) code); }'");
            statement.execute("CREATE ALIAS IF NOT EXISTS TO_CLOB AS 'String large(String text) { return text; }'");
            for (String sql : statements(herbarium(dialect))) {
                String taken = sql.replaceAll(" COLLATE \\w+", "")
                        .replaceAll("sysdatetime(offset)?\\(\\)", "CURRENT_TIMESTAMP")
                        .replace("SYSTIMESTAMP", "CURRENT_TIMESTAMP")
                        .replaceAll(" datetimeoffset\\(\\d\\)", " TIMESTAMP WITH TIME ZONE")
                        .replaceAll("(?m)(?<=\\d)[df](?=,$|\\)$)", "");
                if (taken.startsWith("CREATE TABLE") || taken.startsWith("INSERT")) {
                    statement.execute(taken);
                    rows[0] += Math.max(0, statement.getUpdateCount());
                }
            }
        }
        assertThat(rows[0]).isGreaterThan(1_500);
    }

    /**
     * For whoever has a server, with an empty schema and the driver's jar on the class path
     * ({@code -Dmaven.test.additionalClasspath=…}): its URL in FERRY_TEST_SQLSERVER or FERRY_TEST_ORACLE.
     */
    @ParameterizedTest
    @ValueSource(strings = {"sqlserver", "oracle"})
    void aRealServerTakesTheScriptWhereThereIsOne(String dialect) throws Exception {
        String url = System.getenv("FERRY_TEST_" + dialect.toUpperCase(Locale.ROOT));
        assumeTrue(url != null, "no server of it was named");
        Path script = herbarium(dialect);
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            for (String sql : statements(script)) {
                statement.execute(sql);
            }
        }
        try (Place read = Places.open(script.toString());
                Place server = Places.open(url)) {
            for (TableName table : read.tables()) {
                ReconcileResult result =
                        Reconcile.between(read, server).tables(table.toString()).compare();
                assertThat(result.isEqual()).as(result.toString()).isTrue();
            }
        }
    }

    private static ListedPlace listed(List<String> texts) {
        List<List<String>> records = new ArrayList<>();
        for (int i = 0; i < texts.size(); i++) {
            records.add(List.of(Integer.toString(i), texts.get(i)));
        }
        ListedPlace place = new ListedPlace();
        place.with(
                TableDefinition.named(TableName.of("label"))
                        .column("id", LogicalType.INTEGER)
                        .column("text", LogicalType.CLOB)
                        .build(),
                records);
        return place;
    }

    private static List<String> hostile() {
        List<String> texts = new ArrayList<>(HostileTexts.ALL);
        texts.addAll(List.of(
                "moss\nGO\nfern",
                "GO",
                "moss\r\nGO 5\r\n",
                "$(moss) and $$(fern) and $(",
                "\n:r moss.sql\n",
                "\n!!rm moss",
                "moss\n/\nfern",
                "/",
                "&moss and &&fern",
                "moss;\n",
                "ends in a hyphen -\nand goes on",
                "q'[moss]' and N'fern'",
                "\n\n\n",
                "moss\\\nfern",
                "it''s" + "\u00fc\ud83c\udf3f".repeat(3_000),
                "'".repeat(5_000)));
        texts.removeIf(String::isEmpty);
        return texts;
    }

    @ParameterizedTest
    @ValueSource(strings = {"sqlserver", "oracle", "h2", "sqlite", "postgresql", "mariadb"})
    void columnsWhoseNamesHoldWhatListsAreMadeOfAreReadAgain(String dialect) throws Exception {
        ListedPlace source = new ListedPlace();
        source.with(
                TableDefinition.named(TableName.of("sheet (old), VALUES (1)"))
                        .column("id", LogicalType.INTEGER)
                        .column("mass (g)", LogicalType.INTEGER)
                        .column(") VALUES (", LogicalType.INTEGER)
                        .column("a](b", LogicalType.INTEGER)
                        .column("a`b[c", LogicalType.INTEGER)
                        .column("it's, (\u00fc", LogicalType.CLOB)
                        .build(),
                List.of(List.of("1", "2", "3", "4", "5", "wet"), List.of("6", "7", "8", "9", "10", "dry")));
        Path script = script(dialect, source);
        try (Place read = Places.open(PlaceAddress.of(script), in(dialect))) {
            assertThat(read.leftBehind()).isEmpty();
            ReconcileResult result = Reconcile.between(source, read).compare();
            assertThat(result.isEqual()).as(result.toString()).isTrue();
        }
    }

    @Test
    void noNameIsTakenByAShellForItsOwn() throws Exception {
        ListedPlace source = new ListedPlace();
        source.with(
                TableDefinition.named(TableName.of("sheet$(PATH)$$(fern)"))
                        .column("id", LogicalType.INTEGER)
                        .column("$(moss)", LogicalType.CLOB)
                        .column("_(moss)", LogicalType.CLOB)
                        .column("price$", LogicalType.INTEGER)
                        .build(),
                List.of(List.of("1", "wet", "dry", "7")));
        Path script = script("sqlserver", source);
        assertThat(Files.readString(script))
                .doesNotContain("$(")
                .contains("[sheet_(PATH)$_(fern)]", "[_(moss)]", "[_(moss)_2]", "[price$]");
    }

    @ParameterizedTest
    @ValueSource(strings = {"sqlserver", "oracle"})
    void noTextIsTakenByAShellForItsOwn(String dialect) throws Exception {
        ListedPlace source = listed(hostile());
        Path script = script(dialect, source);
        try (Place read = Places.open(script.toString())) {
            ReconcileResult result = Reconcile.between(source, read).compare();
            assertThat(result.isEqual()).as(result.toString()).isTrue();
        }
        for (String line : Files.readAllLines(script)) {
            assertThat(line.contains("$(")).isEqualTo(dialect.equals("oracle") && line.contains("$(moss)"));
            assertThat(line).doesNotStartWith(":").doesNotStartWith("!").isNotBlank();
            assertThat(line.matches("(?s)GO|[^G].*")).as(line).isTrue();
            assertThat(line.chars()).allMatch(c -> c >= ' ');
            if (dialect.equals("oracle")) {
                assertThat(line).isNotEqualTo("/").doesNotEndWith("-");
                assertThat(line.length()).isLessThan(2_499);
            }
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"sqlserver", "oracle"})
    void generatedRecordsComeBackOrAreRejectedByName(String dialect) {
        for (long seed = 0; seed < 6; seed++) {
            ListedPlace source = new GeneratedRows(seed).fill(new GeneratedTables(seed).some(4), 30);
            Path script = folder.resolve(dialect + "-generated-" + seed + ".sql");
            List<String> rejected = new ArrayList<>();
            long written;
            try (TargetPlace target = Places.openTarget(PlaceAddress.of(script), in(dialect))) {
                var result = Load.from(source)
                        .rejects(why -> rejected.add(why.getMessage()))
                        .into(target);
                written = result.tables().stream().mapToLong(t -> t.written()).sum();
            }
            try (Place read = Places.open(PlaceAddress.of(script), in(dialect))) {
                long there = read.tables().stream()
                        .mapToLong(t -> rows(read, t).size())
                        .sum();
                assertThat(there).as(rejected.toString()).isEqualTo(written);
                assertThat(rejected).allMatch(why -> why.contains("column"));
            }
        }
    }

    private static List<String> rows(Place place, TableName table) {
        return Contents.of(place.read(Slice.whole(place.define(table)))).stream()
                .map(Object::toString)
                .toList();
    }
}
