package org.orderlyferry.databases.driver;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Merged;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.generated.GeneratedRows;
import org.orderlyferry.testkit.generated.GeneratedTables;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.testkit.herbarium.HostileTexts;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/**
 * SQL Server and Oracle over a connection, by their stand-ins: what their own servers would do isn't shown here. Who has one names
 * its URL in FERRY_TEST_SQLSERVER or FERRY_TEST_ORACLE, with an empty schema and the driver on the class path, and these tests run
 * there as well.
 */
class StandInSystemsTest {

    @TempDir
    private static Path folder;

    private static Path old;
    private static int number;
    private static final Set<String> ours = new HashSet<>();

    static Stream<String> systems() {
        return Stream.of("SQL Server", "Oracle");
    }

    @BeforeAll
    static void makeAHerbarium() throws Exception {
        old = folder.resolve("old.mv.db");
        new Herbarium().specimens(60).readings(1_100).commonDates(true).create(old);
    }

    private static String fresh(String system) {
        String word = system.toLowerCase(Locale.ROOT).replace(" ", "");
        String real = System.getenv("FERRY_TEST_" + word.toUpperCase(Locale.ROOT));
        if (real != null) {
            emptied(real);
            return real;
        }
        return "jdbc:stand-in:" + word + ":mem:s" + number++;
    }

    /** A schema that was empty at first is ours: what a test has left there goes. */
    private static void emptied(String url) {
        try (TargetPlace place = Places.openTarget(url);
                Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            List<TableName> there = place.tables();
            assertThat(there).as("tables in %s", url).isEqualTo(ours.add(url) ? List.of() : there);
            String quotes = connection.getMetaData().getIdentifierQuoteString();
            UnaryOperator<String> quoted = n -> quotes + n.replace(quotes, quotes + quotes) + quotes;
            List<String> statements = new ArrayList<>();
            for (TableName table : there) {
                try (ResultSet key =
                        connection.getMetaData().getImportedKeys(null, connection.getSchema(), table.name())) {
                    while (key.next()) {
                        statements.add("ALTER TABLE " + quoted.apply(table.name()) + " DROP CONSTRAINT "
                                + quoted.apply(key.getString("FK_NAME")));
                    }
                }
            }
            there.forEach(t -> statements.add("DROP TABLE " + quoted.apply(t.name())));
            for (String sql : statements) {
                statement.execute(sql);
            }
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
    }

    /** What Oracle holds as null, and so refuses, is told elsewhere. */
    private static String[] tables(Place source, String system) {
        return source.tables().stream()
                .map(TableName::toString)
                .filter(t -> system.equals("SQL Server")
                        ? !t.equals("calibration")
                        : !List.of("calibration", "label_draft", "sheet_image").contains(t))
                .toArray(String[]::new);
    }

    private static TransferResult load(Place source, String url, LoadMode mode, String... tables) {
        try (TargetPlace target = Places.openTarget(url)) {
            return Load.from(source)
                    .tables(tables)
                    .mode(mode)
                    .rejects(why -> {})
                    .into(target);
        }
    }

    private static void assertEqual(Place one, Place other, String... tables) {
        ReconcileResult result = Reconcile.between(one, other).tables(tables).compare();
        assertThat(result.isEqual()).as(result.toString()).isTrue();
    }

    @ParameterizedTest
    @MethodSource("systems")
    void theHerbariumGoesThereAndComesBackWithItsDefinitions(String system) {
        String url = fresh(system);
        try (Place source = Places.open(old)) {
            String[] tables = tables(source, system);
            load(source, url, LoadMode.CREATE, tables);
            try (Place target = Places.open(url)) {
                assertThat(target.system()).startsWith(system);
                assertThat(target.tables()).hasSize(tables.length);
                for (String name : tables) {
                    TableDefinition meant = source.define(TableName.of(name));
                    TableDefinition there = target.define(TableName.of(name));
                    assertThat(there.primaryKey().map(Key::columns))
                            .isEqualTo(meant.primaryKey().map(Key::columns));
                    assertThat(there.foreignKeys())
                            .extracting(k -> k.columns() + " " + k.target() + " " + k.targetColumns() + k.onDelete())
                            .containsExactlyInAnyOrderElementsOf(meant.foreignKeys().stream()
                                    .map(k -> k.columns() + " " + k.target() + " " + k.targetColumns() + k.onDelete())
                                    .toList());
                    assertThat(there.comment()).isEqualTo(meant.comment());
                    assertThat(there.columns())
                            .extracting(c -> c.name()
                                    + c.nullable()
                                    + c.comment()
                                    + c.identity().map(i -> i.next()))
                            .isEqualTo(meant.columns().stream()
                                    .map(c -> held(system, c.name())
                                            + c.nullable()
                                            + c.comment()
                                            + c.identity().map(i -> i.next()))
                                    .toList());
                    assertThat(there.uniqueKeys().size() + there.indexes().size())
                            .isEqualTo(
                                    meant.uniqueKeys().size() + meant.indexes().size());
                }
                assertEqual(source, target, tables);
                // the stand-in's database allows no snapshots
                assertThat(target.leftBehind())
                        .filteredOn(l -> l.kind().equals("one moment"))
                        .hasSize(system.equals("Oracle") ? 0 : 1)
                        .allMatch(l -> l.reason().contains("ALLOW_SNAPSHOT_ISOLATION"));
                String again = "jdbc:sqlite:" + folder.resolve("again" + number++ + ".db");
                load(target, again, LoadMode.CREATE);
                try (Place back = Places.open(again)) {
                    assertEqual(target, back);
                }
            }
        }
    }

    /** A name with a quote is none that Oracle has. */
    private static String held(String system, String name) {
        return system.equals("Oracle") ? name.replace('"', '_') : name;
    }

    private static ListedPlace beds(String... names) {
        return Beds.of(Optional.of(new Identity(true, 1, 1, 1)), names);
    }

    /** The first table counts always, and gets its values all the same. */
    @ParameterizedTest
    @MethodSource("systems")
    void tablesThatAreThereAreReplacedAddedToAndMergedInto(String system) {
        String url = fresh(system);
        load(beds("1=moss", "2=fern"), url, LoadMode.CREATE);
        load(beds("3=heath"), url, LoadMode.APPEND);
        TransferResult merged = load(beds("2=reed", "3=heath", "4=sedge"), url, LoadMode.MERGE);
        assertThat(merged.tables())
                .extracting(t -> t.merged().map(Merged::inserted))
                .containsOnly(Optional.of(1L));
        try (Place target = Places.open(url)) {
            assertEqual(beds("1=moss", "2=reed", "3=heath", "4=sedge"), target);
            assertThat(target.define(TableName.of("bed"))
                            .column("id")
                            .orElseThrow()
                            .identity()
                            .orElseThrow()
                            .next())
                    .isEqualTo(5);
        }
        assertThatThrownBy(() -> load(beds("5=lichen", "4=moss"), url, LoadMode.APPEND))
                .isInstanceOf(FerryException.class);
        for (String name : List.of("7=first", "8=second")) {
            load(beds(name), url, LoadMode.REPLACE);
        }
        try (Place target = Places.open(url)) {
            assertEqual(beds("8=second"), target);
            assertThat(target.tables()).containsExactly(TableName.of("bed"), TableName.of("plant"));
            TableDefinition bed = target.define(TableName.of("bed"));
            assertThat(bed.primaryKey()).isPresent();
            assertThat(bed.uniqueKeys().size() + bed.indexes().size()).isEqualTo(2);
            assertThat(target.define(TableName.of("plant")).foreignKeys()).hasSize(1);
        }
    }

    @ParameterizedTest
    @MethodSource("systems")
    void aLoadThatWasCutShortIsUndoneByTheNext(String system) {
        String url = fresh(system);
        load(beds("1=moss"), url, LoadMode.CREATE);
        ListedPlace other = beds("2=fern");
        TargetPlace killed = Places.openTarget(url);
        List<TableDefinition> wanted =
                other.tables().stream().map(other::define).toList();
        killed.begin(wanted, LoadModes.all(LoadMode.REPLACE), "a plan");
        // its connection goes, and nothing of it is put back
        killed.close();
        try (Place target = Places.open(url)) {
            assertThat(target.leftBehind()).anyMatch(l -> l.kind().equals("unfinished load"));
        }
        load(beds("3=reed"), url, LoadMode.REPLACE);
        try (Place target = Places.open(url)) {
            assertEqual(beds("3=reed"), target);
            assertThat(target.tables()).hasSize(2);
        }
    }

    /** By numbers and by moments, but not by texts, whose order is their column's own. */
    @ParameterizedTest
    @MethodSource("systems")
    void aTableIsCutByWhatItsKeyIsWorth(String system) {
        List<List<String>> records = new ArrayList<>();
        for (int i = 0; i < 500; i++) {
            String moment = String.format(Locale.ROOT, "2031-04-%02dT07:30:00", 1 + i % 20);
            records.add(Arrays.asList(Integer.toString(i * 3), i % 10 == 0 ? null : moment, "c" + i));
        }
        ListedPlace source = new ListedPlace()
                .with(
                        TableDefinition.named(TableName.of("visit"))
                                .column(ColumnDefinition.named("id", LogicalType.INTEGER)
                                        .nullable(false)
                                        .build())
                                .column("at", LogicalType.of(TypeName.TIMESTAMP, 3))
                                .column("code", LogicalType.varchar(9))
                                .primaryKey("id")
                                .build(),
                        records);
        String url = fresh(system);
        load(source, url, LoadMode.CREATE);
        try (Place target = Places.open(url)) {
            TableDefinition visit = target.define(TableName.of("visit"));
            for (Map<TableName, String> by : List.of(Map.<TableName, String>of(), Map.of(visit.name(), "at"))) {
                List<Slice> slices = target.cut(visit, 500, new Cut(60, by));
                assertThat(slices).hasSizeBetween(7, 12);
                List<String> seen = new ArrayList<>();
                RecordBatch batch = new RecordBatch();
                for (Slice slice : slices) {
                    try (RecordReader reader = target.read(slice)) {
                        while (reader.read(batch)) {
                            for (int row = 0; row < batch.rows(); row++) {
                                seen.add(batch.text(row, 0));
                            }
                        }
                    }
                }
                assertThat(seen).hasSize(500).doesNotHaveDuplicates();
            }
            assertThatThrownBy(() -> target.cut(visit, 500, new Cut(60, Map.of(visit.name(), "code"))))
                    .isInstanceOf(UsageException.class)
                    .hasMessageContaining("code");
        }
    }

    @ParameterizedTest
    @MethodSource("systems")
    void hostileTextsComeBackOrAreTold(String system) {
        List<List<String>> texts = new ArrayList<>();
        HostileTexts.ALL.forEach(t -> texts.add(List.of(Integer.toString(texts.size()), t)));
        ListedPlace source = new ListedPlace()
                .with(
                        TableDefinition.named(TableName.of("label ]\"[ '; DROP TABLE x --".replace("\"", "")))
                                .column("id", LogicalType.INTEGER)
                                .column("a]b", LogicalType.CLOB)
                                .build(),
                        texts);
        String url = fresh(system);
        List<String> refused = new ArrayList<>();
        try (TargetPlace target = Places.openTarget(url)) {
            TransferResult result = Load.from(source)
                    .rejects(why -> refused.add(why.toString()))
                    .into(target);
            assertThat(result.tables()).allSatisfy(t -> assertThat(t.read()).isEqualTo(texts.size()));
        }
        assertThat(refused).hasSizeLessThan(4).allMatch(r -> r.contains("Oracle") || r.contains("U+0000"));
        try (Place target = Places.open(url)) {
            assertThat(target.tables()).hasSize(1);
        }
    }

    @ParameterizedTest
    @MethodSource("systems")
    void whateverIsLoadedIsEqualOrRefused(String system) {
        for (long seed = 0; seed < Integer.getInteger("ferry.definitions", 2); seed++) {
            ListedPlace source = new GeneratedRows(seed).fill(new GeneratedTables(seed).some(3), 20);
            String url = fresh(system);
            load(source, url, LoadMode.CREATE);
            try (Place target = Places.open(url)) {
                assertThat(target.tables()).hasSize(source.tables().size());
            }
        }
    }

    /** SQL Server would say so when all records are in. */
    @Test
    void aMergeThatWouldChangeACounterIsRefusedBefore() {
        ListedPlace source = new ListedPlace()
                .with(
                        TableDefinition.named(TableName.of("bed"))
                                .column(ColumnDefinition.named("code", LogicalType.varchar(9))
                                        .nullable(false)
                                        .build())
                                .column(ColumnDefinition.named("number", LogicalType.INTEGER)
                                        .nullable(false)
                                        .identity(Optional.of(new Identity(false, 1, 1, 3)))
                                        .build())
                                .primaryKey("code")
                                .build(),
                        List.of(List.of("moss", "1"), List.of("reed", "2")));
        String url = fresh("SQL Server");
        load(source, url, LoadMode.CREATE);
        assertThatThrownBy(() -> load(source, url, LoadMode.MERGE))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("SQL Server can't change what number has counted");
    }
}
