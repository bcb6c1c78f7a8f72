package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BadRecordException;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** Databases as other people made them, read and moved on. */
@Tag("everywhere")
class ForeignSchemasTest {

    @TempDir
    private Path folder;

    private String make(String file, String... statements) throws SQLException {
        String path = folder.resolve(file).toString();
        String url = file.endsWith(".mv.db")
                ? "jdbc:h2:" + path.substring(0, path.length() - ".mv.db".length())
                : "jdbc:sqlite:" + path;
        try (Connection connection = DriverManager.getConnection(url, "sa", "");
                Statement statement = connection.createStatement()) {
            for (String sql : statements) {
                statement.execute(sql);
            }
        }
        return path;
    }

    private static TransferResult move(String from, String to) {
        try (Place source = Places.open(from);
                TargetPlace target = Places.openTarget(to)) {
            return Load.from(source).into(target);
        }
    }

    private static TableDefinition define(String place, String table) {
        try (Place opened = Places.open(place)) {
            return opened.define(TableName.of(table));
        }
    }

    /** All records of a table; bytes as base64. */
    private static List<List<String>> readAll(String place, String table) {
        List<List<String>> rows = new ArrayList<>();
        try (Place opened = Places.open(place);
                RecordReader reader = opened.read(Slice.whole(opened.define(TableName.of(table))))) {
            RecordBatch batch = new RecordBatch();
            while (reader.read(batch)) {
                for (int row = 0; row < batch.rows(); row++) {
                    List<String> values = new ArrayList<>();
                    for (int column = 0; column < batch.columns(); column++) {
                        boolean binary = reader.table()
                                .columns()
                                .get(column)
                                .type()
                                .name()
                                .isBinary();
                        values.add(
                                batch.isNull(row, column)
                                        ? null
                                        : binary
                                                ? Base64.getEncoder().encodeToString(batch.copy(row, column))
                                                : batch.text(row, column));
                    }
                    rows.add(values);
                }
            }
        }
        return rows;
    }

    @Test
    void sqliteTablesAreReadByTheirOwnWords() throws Exception {
        String place = make(
                "garden.sqlite",
                "CREATE TABLE bed (id INTEGER PRIMARY KEY, name TEXT NOT NULL DEFAULT 'new, \"bed\"' /* a, b */,"
                        + " [width in m] FLOAT DEFAULT 1.5, made DATETIME DEFAULT CURRENT_TIMESTAMP,"
                        + " kind VARCHAR(10) CHECK (kind IN ('raised', 'flat')), -- a comment, with (parentheses\n"
                        + " CONSTRAINT wide CHECK (\"width in m\" > 0), UNIQUE (name, kind))",
                "CREATE TABLE plant (bed INTEGER NOT NULL REFERENCES bed ON DELETE CASCADE, no INT2, note,"
                        + " CONSTRAINT plant_key PRIMARY KEY (bed, no)) WITHOUT ROWID",
                "CREATE INDEX plant_note ON plant (note DESC)",
                "CREATE INDEX partial ON plant (no) WHERE no > 3",
                "CREATE VIEW v AS SELECT 1",
                "CREATE TRIGGER t AFTER INSERT ON bed BEGIN SELECT 1; END",
                "INSERT INTO bed (name) VALUES ('moss'), ('fern')");
        TableDefinition bed = define(place, "bed");
        assertThat(bed.columns())
                .extracting(ColumnDefinition::type)
                .containsExactly(
                        LogicalType.BIGINT,
                        LogicalType.CLOB,
                        LogicalType.DOUBLE,
                        LogicalType.of(TypeName.TIMESTAMP),
                        LogicalType.varchar(10));
        assertThat(bed.column("id").orElseThrow().identity().orElseThrow().next())
                .isEqualTo(3);
        assertThat(bed.column("name").orElseThrow().defaultValue()).contains(new ColumnDefault.Literal("new, \"bed\""));
        assertThat(bed.checks())
                .extracting(c -> c.name() + ":" + c.expression())
                .containsExactly(":kind IN ('raised', 'flat')", "wide:\"width in m\" > 0");
        assertThat(bed.uniqueKeys()).containsExactly(new Key("", List.of("name", "kind")));
        TableDefinition plant = define(place, "plant");
        assertThat(plant.primaryKey()).contains(new Key("plant_key", List.of("bed", "no")));
        assertThat(plant.foreignKeys()).extracting(ForeignKey::targetColumns).containsExactly(List.of("id"));
        assertThat(plant.indexes())
                .containsExactly(
                        new IndexDefinition("plant_note", false, List.of(new IndexDefinition.Part("note", true))),
                        new IndexDefinition(
                                "partial",
                                false,
                                List.of(new IndexDefinition.Part("no", false)),
                                Optional.of(new SqlText("no > 3", "SQLite")),
                                Optional.empty()));
        try (Place opened = Places.open(place)) {
            assertThat(opened.leftBehind())
                    .extracting(l -> l.kind() + " " + l.name())
                    .containsExactly("view v", "trigger bed.t");
        }
        TransferResult result = move(place, folder.resolve("garden.mv.db").toString());
        assertThat(result.rows()).isEqualTo(2);
        assertThat(result.findings()).hasSize(2).allMatch(f -> f.text()
                .startsWith("H2 can't index CHARACTER LARGE OBJECT"));
        assertThat(result.leftBehind()).extracting(LeftBehind::name).containsExactly("v", "bed.t", "plant.partial");
        assertThat(define(folder.resolve("garden.mv.db").toString(), "bed").checks())
                .hasSize(2);
    }

    /** SQLite takes any value in any column; a declared type is no more than a proposal. */
    @Test
    void columnsOfSqliteAreCarriedAsWhatTheyHoldAndThatIsTold() throws Exception {
        String place = make(
                "loose.sqlite",
                "CREATE TABLE a (n INTEGER, d DATE, s TEXT, made DATETIME, shape POLYGON, either INTEGER_OR_TEXT, f REAL)",
                "INSERT INTO a VALUES (1, '2031-04-09', 'x', '2031-04-09T07:30:00.25Z', x'0103', 7, 1.5),"
                        + " ('moss', NULL, NULL, '2031-04-09 07:30:00+02:00', NULL, 'seven', 9007199254740993)",
                "CREATE TABLE b (d DATE, t TIMESTAMP, m DECIMAL(5,2), v VARCHAR(3))",
                "INSERT INTO b VALUES (20310409, 'yesterday', 12345.678, 'fern'), (20310410, NULL, 1, NULL)",
                "CREATE TABLE c (s TEXT, empty DATETIME)",
                "INSERT INTO c VALUES (x'ff00', NULL), ('moss', NULL), (7, NULL)");
        try (Place opened = Places.open(place)) {
            assertThat(opened.define(TableName.of("a")).columns())
                    .extracting(c -> c.type().toString())
                    .containsExactly(
                            "CHARACTER LARGE OBJECT",
                            "DATE",
                            "CHARACTER LARGE OBJECT",
                            "TIMESTAMP(9) WITH TIME ZONE",
                            "BINARY LARGE OBJECT",
                            "CHARACTER LARGE OBJECT",
                            "DOUBLE PRECISION");
            assertThat(opened.define(TableName.of("b")).columns())
                    .extracting(c -> c.type().toString())
                    .containsExactly("BIGINT", "CHARACTER LARGE OBJECT", "DOUBLE PRECISION", "CHARACTER LARGE OBJECT");
            assertThat(opened.leftBehind())
                    .extracting(LeftBehind::toString)
                    .contains("type a.made: is declared DATETIME, and 2 of 2 values are none; the column is carried as"
                            + " TIMESTAMP(9) WITH TIME ZONE");
        }
        assertThat(readAll(place, "c"))
                .containsExactly(
                        Arrays.asList("/wA=", null), Arrays.asList("bW9zcw==", null), Arrays.asList("Nw==", null));
        String h2 = folder.resolve("loose.mv.db").toString();
        assertThat(move(place, h2).rows()).isEqualTo(7);
        assertThat(readAll(h2, "a").get(1)).contains("moss", "2031-04-09T05:30:00Z", "seven");
        String again = folder.resolve("again.sqlite").toString();
        assertThat(move(place, again).rows()).isEqualTo(7);
        assertThat(readAll(again, "a")).isEqualTo(readAll(place, "a"));
    }

    @Test
    void bytesThatAreNoTextAreToldAndNeverMended() throws Exception {
        String place = make("broken.sqlite", "CREATE TABLE a (s TEXT)", "INSERT INTO a VALUES (CAST(x'6dff' AS TEXT))");
        assertThatThrownBy(() -> readAll(place, "a"))
                .isInstanceOf(BadValueException.class)
                .hasMessageContaining("record 1, column s")
                .hasMessageContaining("no text in the database's encoding");
        String fine = make("fine.sqlite", "CREATE TABLE a (s TEXT)", "INSERT INTO a VALUES ('m\uFFFDss')");
        assertThat(readAll(fine, "a")).containsExactly(List.of("m\uFFFDss"));
        String wide = make(
                "wide.sqlite",
                "PRAGMA encoding = 'UTF-16'",
                "CREATE TABLE a (s TEXT)",
                "INSERT INTO a VALUES ('m\uFFFDss')");
        assertThat(readAll(wide, "a")).containsExactly(List.of("m\uFFFDss"));
    }

    @Test
    void h2TypesWithoutALogicalTypeAreCarriedAsTextAndTold() throws Exception {
        String place = make(
                "odd.mv.db",
                "CREATE TABLE \"odd\" (\"e\" ENUM('wet', 'dry'), \"z\" TIME WITH TIME ZONE, \"i\" INTERVAL DAY TO SECOND,"
                        + " \"a\" INTEGER ARRAY, \"t\" TINYINT DEFAULT 7, \"f\" DECFLOAT(20), \"b\" VARBINARY(9) DEFAULT"
                        + " X'00ff', \"u\" VARCHAR(20) DEFAULT U&'\\00fcber', \"s\" TIMESTAMP DEFAULT TIMESTAMP"
                        + " '2031-04-09 07:30:00', \"g\" INTEGER GENERATED ALWAYS AS (\"t\" + 1),"
                        + " \"x\" INTEGER DEFAULT LENGTH(USER))",
                "INSERT INTO \"odd\" (\"e\", \"z\", \"i\", \"a\", \"f\") VALUES ('wet', '07:30:00+02', INTERVAL '1 2:3:4'"
                        + " DAY TO SECOND, ARRAY[1, 2], 1.50)",
                "CREATE SEQUENCE \"loose\"");
        TableDefinition odd = define(place, "odd");
        assertThat(odd.column("b").orElseThrow().defaultValue()).contains(new ColumnDefault.Literal("AP8="));
        assertThat(odd.column("u").orElseThrow().defaultValue()).contains(new ColumnDefault.Literal("über"));
        assertThat(odd.column("s").orElseThrow().defaultValue())
                .contains(new ColumnDefault.Literal("2031-04-09T07:30:00"));
        try (Place opened = Places.open(place)) {
            assertThat(opened.leftBehind())
                    .extracting(l -> l.kind() + " " + l.name())
                    .containsExactly("sequence loose", "type odd.a", "type odd.i", "type odd.z");
        }
        String target = folder.resolve("odd.sqlite").toString();
        TransferResult result = move(place, target);
        assertThat(result.leftBehind())
                .extracting(LeftBehind::toString)
                .hasSize(5)
                .contains(
                        "default odd.x: the expression means something else here, or nothing: CHAR_LENGTH(CURRENT_USER)");
        try (Place a = Places.open(place);
                Place b = Places.open(target)) {
            assertThat(Reconcile.between(a, b).compare().isEqual()).isTrue();
        }
    }

    @Test
    void aReferenceThatDoesNotHoldUndoesTheLoadInBothSystems() throws Exception {
        String place = make(
                "broken.sqlite",
                "CREATE TABLE bed (id INTEGER PRIMARY KEY)",
                "CREATE TABLE plant (id INTEGER PRIMARY KEY, bed INTEGER REFERENCES bed (id))",
                "INSERT INTO plant VALUES (17, 417)");
        assertThatThrownBy(() -> move(place, folder.resolve("target.sqlite").toString()))
                .isInstanceOf(PlaceException.class)
                .hasMessageContaining(
                        "table plant has a record with bed = 417, which refers to a record of bed that isn't");
        assertThatThrownBy(() -> move(place, folder.resolve("target.mv.db").toString()))
                .isInstanceOf(PlaceException.class)
                .hasMessageContaining(
                        "table plant has a record with bed = 417, which refers to a record of bed that isn't");
        assertThat(folder.resolve("target.sqlite")).doesNotExist();
        assertThat(folder.resolve("target.mv.db")).doesNotExist();
    }

    @Test
    void aRecordThatTheTargetRefusesUndoesTheLoadAndKeepsWhatWasThere() throws Exception {
        String place = make(
                "twice.mv.db",
                "CREATE TABLE \"shelf\" (\"no\" INTEGER, \"Label\" VARCHAR(9))",
                "INSERT INTO \"shelf\" VALUES (1, 'a'), (2, 'b'), (1, 'c')");
        String target = make("kept.sqlite", "CREATE TABLE visitor (id INTEGER)", "INSERT INTO visitor VALUES (417)");
        try (Place source = Places.open(place);
                TargetPlace opened = Places.openTarget(target)) {
            TableDefinition keyed = source.define(TableName.of("shelf")).toBuilder()
                    .primaryKey("no")
                    .build();
            assertThatThrownBy(() -> Load.from(new Redefined(source, keyed)).into(opened))
                    .isInstanceOf(BadRecordException.class)
                    .hasMessageContaining("table shelf, record 3: table shelf refuses the record with no = 1: ")
                    .hasMessageContaining("UNIQUE constraint failed: shelf.no");
        }
        try (Place after = Places.open(target)) {
            assertThat(after.tables()).containsExactly(TableName.of("visitor"));
            assertThat(after.count(TableName.of("visitor"))).isEqualTo(1);
        }
    }

    /** A place whose one table is defined otherwise. */
    private record Redefined(Place place, TableDefinition table) implements Place {
        @Override
        public String address() {
            return place.address();
        }

        @Override
        public String system() {
            return place.system();
        }

        @Override
        public List<TableName> tables() {
            return List.of(table.name());
        }

        @Override
        public TableDefinition define(TableName name) {
            return table;
        }

        @Override
        public long count(TableName name) {
            return place.count(name);
        }

        @Override
        public java.util.OptionalLong bytes(TableName name) {
            return place.bytes(name);
        }

        @Override
        public List<LeftBehind> leftBehind() {
            return List.of();
        }

        @Override
        public RecordReader read(Slice slice) {
            return place.read(slice);
        }

        @Override
        public void close() {
            // the test closes it
        }
    }

    @Test
    void halfASurrogatePairIsNeverWrittenAsAQuestionMark() throws Exception {
        String place = make(
                "half.mv.db",
                "CREATE TABLE \"t\" (\"s\" VARCHAR(9))",
                "INSERT INTO \"t\" VALUES ('ok'), (U&'x\\d83cy')");
        assertThatThrownBy(() -> readAll(place, "t"))
                .isInstanceOf(BadValueException.class)
                .hasMessage(
                        "table t, record 2, column s: 'x\\ud83cy' holds half of a surrogate pair, which no encoding of"
                                + " Unicode has");
    }

    @Test
    void textWithANulCharacterGoesThrough() throws Exception {
        String place =
                make("nul.mv.db", "CREATE TABLE \"t\" (\"s\" VARCHAR(9))", "INSERT INTO \"t\" VALUES (U&'a\\0000b')");
        String target = folder.resolve("nul.sqlite").toString();
        move(place, target);
        try (Place a = Places.open(place);
                Place b = Places.open(target)) {
            assertThat(Reconcile.between(a, b).compare().isEqual()).isTrue();
        }
    }
}
