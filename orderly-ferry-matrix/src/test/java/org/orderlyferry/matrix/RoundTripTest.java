package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/**
 * The whole herbarium, H2 → set → SQLite → set → H2 → set: every value comes back to the bit, and every definition, save
 * what is listed here by name.
 */
class RoundTripTest {

    @TempDir
    private static Path folder;

    private static TransferResult intoSqlite;
    private static TransferResult intoH2;

    private static String place(String name) {
        return folder.resolve(name).toString();
    }

    private static void export(String from, String set) {
        try (Place source = Places.open(place(from))) {
            Export.from(source).to(folder.resolve(set));
        }
    }

    private static TransferResult load(String set, String to) {
        try (Place source = Places.open(place(set));
                TargetPlace target = Places.openTarget(place(to))) {
            return Load.from(source).into(target);
        }
    }

    @BeforeAll
    static void goAllTheWay() throws Exception {
        new Herbarium().specimens(500).readings(500).create(folder.resolve("old.mv.db"));
        export("old.mv.db", "set1");
        intoSqlite = load("set1", "middle.sqlite");
        export("middle.sqlite", "set2");
        intoH2 = load("set2", "new.mv.db");
        export("new.mv.db", "set3");
    }

    /** A table's records as they stand in a set, in an order of their own: order is no part of a table. */
    private static List<String> records(String set, TableName table) {
        List<String> records = new ArrayList<>();
        RecordBatch batch = new RecordBatch();
        try (Place place = Places.open(place(set));
                RecordReader reader = place.read(Slice.whole(place.define(table)))) {
            while (reader.read(batch)) {
                for (int row = 0; row < batch.rows(); row++) {
                    StringBuilder record = new StringBuilder();
                    for (int column = 0; column < batch.columns(); column++) {
                        byte[] value = batch.copy(row, column);
                        record.append(value == null ? "null" : HexFormat.of().formatHex(value))
                                .append('|');
                    }
                    records.add(record.toString());
                }
            }
        }
        records.sort(null);
        return records;
    }

    @Test
    void everyValueComesBackToTheBit() {
        List<TableName> tables;
        try (Place first = Places.open(place("set1"))) {
            tables = first.tables();
        }
        assertThat(tables).hasSize(13);
        for (TableName table : tables) {
            List<String> records = records("set1", table);
            assertThat(records("set2", table)).as("%s out of SQLite", table).isEqualTo(records);
            assertThat(records("set3", table)).as("%s out of H2 again", table).isEqualTo(records);
        }
    }

    @Test
    void allPlacesReconcile() {
        for (String target : List.of("set1", "middle.sqlite", "set2", "new.mv.db", "set3")) {
            try (Place a = Places.open(place("old.mv.db"));
                    Place b = Places.open(place(target))) {
                assertThat(Reconcile.between(a, b).compare().isEqual())
                        .as(target)
                        .isTrue();
            }
        }
    }

    @Test
    void everyDefinitionComesBackSaveWhatSqliteCannotHold() {
        List<String> differences = new ArrayList<>();
        try (Place a = Places.open(place("set1"));
                Place b = Places.open(place("set3"))) {
            for (TableName table : a.tables()) {
                differences(a.define(table), b.define(table), differences);
            }
        }
        assertThat(differences)
                .containsExactlyInAnyOrder(
                        "locality: comment 'Where specimens were gathered' became ''",
                        "locality.altitude: comment 'in metres above the sea' became ''",
                        "specimen: comment 'One pressed sheet' became ''",
                        "specimen.sheet_mass: comment 'in grams' became ''",
                        "specimen.id: always an identity became by default");
    }

    private static void differences(TableDefinition a, TableDefinition b, List<String> differences) {
        String name = a.name().toString();
        if (!a.comment().equals(b.comment())) {
            differences.add(name + ": comment '" + a.comment() + "' became '" + b.comment() + "'");
        }
        assertThat(b.columnNames()).isEqualTo(a.columnNames());
        for (ColumnDefinition column : a.columns()) {
            ColumnDefinition other = b.column(column.name()).orElseThrow();
            String full = name + "." + column.name();
            if (!column.comment().equals(other.comment())) {
                differences.add(full + ": comment '" + column.comment() + "' became '" + other.comment() + "'");
            }
            if (column.identity().isPresent()
                    && column.identity().get().always()
                            != other.identity().orElseThrow().always()) {
                differences.add(full + ": always an identity became by default");
            }
            assertThat(other.type()).as(full).isEqualTo(column.type());
            assertThat(other.nullable()).as(full).isEqualTo(column.nullable());
            assertThat(other.defaultValue()).as(full).isEqualTo(column.defaultValue());
            assertThat(other.identity().map(i -> i.next()))
                    .as(full)
                    .isEqualTo(column.identity().map(i -> i.next()));
        }
        assertThat(b.primaryKey()).as(name).isEqualTo(a.primaryKey());
        assertThat(b.uniqueKeys()).as(name).containsExactlyInAnyOrderElementsOf(a.uniqueKeys());
        assertThat(b.indexes()).as(name).containsExactlyInAnyOrderElementsOf(a.indexes());
        assertThat(b.checks()).as(name).hasSameSizeAs(a.checks());
        assertThat(b.foreignKeys()).as(name).containsExactlyInAnyOrderElementsOf(a.foreignKeys());
    }

    @Test
    void whatArrivedInAnotherFormOrNotAtAllWasTold() {
        assertThat(intoSqlite.leftBehind())
                .extracting(LeftBehind::toString)
                .containsExactly(
                        "view specimen_overview: its SQL is H2's own; make it anew at the target",
                        "comments locality: SQLite has none",
                        "comments specimen: SQLite has none");
        assertThat(intoSqlite.findings())
                .extracting(Finding::toString)
                .containsExactly(
                        "calibration.exact: its numbers (DECIMAL(38,10)) become text, since SQLite would keep 15 digits of"
                                + " them: its own SQL orders them as text, and reckons with them in doubles",
                        "specimen.id: SQLite's counter goes up by 1 and lets an insert give a value of its own; at"
                                + " the source it is GENERATED ALWAYS, increment 1");
        assertThat(intoH2.leftBehind()).isEmpty();
        assertThat(intoH2.findings()).isEmpty();
    }

    @Test
    void theApplicationsFirstInsertWorksInBothTargets() throws Exception {
        String insert = "INSERT INTO \"collector\" (\"name\", \"field_code\") VALUES ('N. Ewcomer', 'ZZZZZ')";
        for (String url : List.of("jdbc:sqlite:" + place("middle.sqlite"), "jdbc:h2:" + place("new"))) {
            try (Connection connection = DriverManager.getConnection(url, "sa", "");
                    Statement statement = connection.createStatement()) {
                connection.setAutoCommit(false);
                statement.executeUpdate(insert);
                try (ResultSet row = statement.executeQuery("SELECT MAX(\"id\") FROM \"collector\"")) {
                    row.next();
                    assertThat(row.getLong(1)).as(url).isEqualTo(41);
                }
                connection.rollback();
            }
        }
    }

    /** A set with one column of doubles, for values that H2 itself doesn't keep and the herbarium so can't have. */
    private static Path doubles(String name, String... values) throws Exception {
        Path file = folder.resolve(name + ".csv");
        Files.writeString(file, "n,v\r\n1," + String.join("\r\n2,", values) + "\r\n");
        Files.writeString(
                folder.resolve(name + ".csv-metadata.json"),
                "{\"@context\":\"http://www.w3.org/ns/csvw\",\"url\":\"" + name
                        + ".csv\",\"tableSchema\":{\"columns\":["
                        + "{\"name\":\"n\",\"datatype\":\"int\"},{\"name\":\"v\",\"datatype\":\"double\"}]}}");
        return file;
    }

    @Test
    void negativeZeroArrivesAsZeroInSqliteAndInH2AndIsTold() throws Exception {
        Path file = doubles("zero", "-0.0", "0.0");
        for (String target : List.of("zero.sqlite", "zero.mv.db")) {
            TransferResult result = load("zero.csv", target);
            assertThat(result.findings())
                    .extracting(Finding::text)
                    .contains("1 value of -0.0 arrived as 0.0: " + (target.endsWith("sqlite") ? "SQLite" : "H2")
                            + " keeps no sign of zero");
            try (Place a = Places.open(file.toString());
                    Place b = Places.open(place(target))) {
                assertThat(Reconcile.between(a, b).compare().isEqual()).isTrue();
            }
        }
    }

    @Test
    void notANumberIsRefusedBySqliteAndKeptByH2AndInfinityIsKeptByBoth() throws Exception {
        doubles("nan", "NaN");
        org.assertj.core.api.Assertions.assertThatThrownBy(() -> load("nan.csv", "nan.sqlite"))
                .isInstanceOf(BadValueException.class)
                .hasMessage(place("nan.csv") + ", line 2, table nan, column v: 'NaN' can't be held: SQLite would make a"
                        + " null of it");
        assertThat(folder.resolve("nan.sqlite")).doesNotExist();
        Path infinite = doubles("infinite", "INF", "-INF");
        load("nan.csv", "nan.mv.db");
        load("infinite.csv", "infinite.mv.db");
        load("infinite.csv", "infinite.sqlite");
        for (String target : List.of("infinite.mv.db", "infinite.sqlite")) {
            try (Place a = Places.open(infinite.toString());
                    Place b = Places.open(place(target))) {
                assertThat(Reconcile.between(a, b).compare().isEqual())
                        .as(target)
                        .isTrue();
            }
        }
    }

    @Test
    void aCounterThatIsNot64BitsWideBecomesSoInSqlite() throws Exception {
        try (Connection connection = DriverManager.getConnection("jdbc:h2:" + place("narrow"), "sa", "");
                Statement statement = connection.createStatement()) {
            statement.execute("CREATE TABLE \"shelf\" (\"id\" INTEGER GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY)");
            statement.execute("INSERT INTO \"shelf\" VALUES (1), (417)");
        }
        export("narrow.mv.db", "narrow");
        TransferResult result = load("narrow", "narrow.sqlite");
        assertThat(result.findings())
                .extracting(Finding::text)
                .containsExactly("a counter is a 64-bit INTEGER in SQLite; at the source it is INTEGER");
        try (Place target = Places.open(place("narrow.sqlite"))) {
            Optional<ColumnDefinition> id = target.define(TableName.of("shelf")).column("id");
            assertThat(id.orElseThrow().type()).isEqualTo(LogicalType.BIGINT);
            assertThat(id.orElseThrow().identity().orElseThrow().next()).isEqualTo(418);
        }
    }
}
