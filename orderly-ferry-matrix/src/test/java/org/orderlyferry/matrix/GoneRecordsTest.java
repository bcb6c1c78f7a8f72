package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.testkit.servers.TestSystem;

/** Records that are gone at the source go with what a catch-up brings: all of it or nothing, and nothing else breaks. */
class GoneRecordsTest extends CrossingCase {

    /** A tree of beds, and plants that stand in them. */
    private Path crossing(String source, String url) throws Exception {
        run(
                source,
                "create table bed (id int primary key, code int not null unique, up int references bed (id))",
                "create table plant (id int primary key, bed int not null references bed (id), note varchar(9))",
                "insert into bed values (1, 11, null), (2, 12, 1), (3, 13, 2), (4, 14, 3), (5, 15, null)",
                "insert into plant values (10, 2, 'x'), (11, 3, 'y'), (12, 5, 'z')");
        return crossed(source, url);
    }

    private static Path crossed(String source, String url) throws Exception {
        Path file = Files.createTempDirectory(folder, "gone-").resolve("crossing.yaml");
        must(0, "draft", source, url, "--file", file);
        edit(file, "follow-deletes: false", "follow-deletes: true", "source-moment: one", "source-moment: still");
        must(0, "run", file);
        return file;
    }

    /** MariaDB quotes names in its own way. */
    private static String quoted(String url, String sql) {
        return url.startsWith("jdbc:mariadb:") ? sql.replace('"', '`') : sql;
    }

    private static void at(String url, String... statements) throws Exception {
        run(url, Stream.of(statements).map(sql -> quoted(url, sql)).toArray(String[]::new));
    }

    private static List<TableDefinition> definitions(String url) {
        try (Place place = Places.open(url)) {
            return place.tables().stream().map(place::define).toList();
        }
    }

    private static List<String> rows(String url, String query) throws Exception {
        List<String> rows = new ArrayList<>();
        try (var connection = DriverManager.getConnection(url);
                var statement = connection.createStatement();
                var row = statement.executeQuery(quoted(url, query))) {
            while (row.next()) {
                rows.add(row.getString(1) + " " + row.getString(2));
            }
        }
        return rows;
    }

    /** What goes has had a code that a new record has got, is a branch of a tree, and had plants in it. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void whatGoesMakesRoomForWhatComesAndWaitsForWhatIsMoved(String system) throws Exception {
        String source = TestSystem.SQLITE.fresh(folder);
        String url = TestSystem.of(system).fresh(folder);
        Path file = crossing(source, url);
        run(
                source,
                "update plant set bed = 5 where bed in (2, 3)",
                "delete from bed where id in (2, 3, 4)",
                "insert into bed values (7, 12, 5)",
                "update bed set code = 13 where id = 5");
        List<TableDefinition> before = definitions(url);
        assertThat(must(0, "run", file, "--catch-up").out())
                .contains("3 rows taken out of the target", "source and target by digests: equal")
                .containsPattern("bed +1 +1 +1 +3");
        must(0, "reconcile", source, url);
        assertThat(definitions(url)).isEqualTo(before);
    }

    /** Tables that aren't of the crossing, whose references the server of some systems isn't asked to look at while it loads. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void whatOthersReferToStaysAndSoDoesAllElse(String system) throws Exception {
        String source = TestSystem.SQLITE.fresh(folder);
        String url = TestSystem.of(system).fresh(folder);
        Path file = crossing(source, url);
        at(
                url,
                "create table label (id int primary key, bed bigint, constraint label_bed foreign key (bed) references \"bed\" (\"id\"))",
                "insert into label values (1, 4)");
        run(
                source,
                "delete from plant where id = 10",
                "update plant set note = 'new' where id = 11",
                "delete from bed where id = 4");
        assertThat(must(3, "run", file, "--catch-up").err())
                .containsIgnoringCase("label")
                .contains("bed");
        assertThat(rows(url, "select \"id\", \"note\" from \"plant\" order by 1"))
                .containsExactly("10 x", "11 y", "12 z");
        assertThat(rows(url, "select id, bed from label")).containsExactly("1 4");
        assertThat(rows(url, "select \"id\", \"code\" from \"bed\"")).hasSize(5);

        // what they were to refer to is gone now, and the catch-up goes on with what it has found
        at(url, "update label set bed = 1");
        assertThat(must(0, "run", file, "--catch-up").out()).contains("2 rows taken out of the target");
        must(0, "reconcile", source, url, "bed", "plant");
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void whatIsToGoWithThemGoes(String system) throws Exception {
        String source = TestSystem.SQLITE.fresh(folder);
        String url = TestSystem.of(system).fresh(folder);
        Path file = crossing(source, url);
        at(
                url,
                "create table label (id int primary key, bed bigint, constraint label_bed foreign key (bed) references \"bed\" (\"id\")"
                        + " on delete cascade)",
                "create table memo (id int primary key, bed bigint, constraint memo_bed foreign key (bed) references \"bed\" (\"id\")"
                        + " on delete set null)",
                "insert into label values (1, 4), (2, 5)",
                "insert into memo values (1, 4), (2, 5)");
        run(source, "delete from bed where id = 4");
        must(0, "run", file, "--catch-up");
        assertThat(rows(url, "select id, bed from label")).containsExactly("2 5");
        assertThat(rows(url, "select id, bed from memo order by id")).containsExactly("1 null", "2 5");
    }

    /** Over several tables and round a tree; what the load has moved elsewhere stays, and what goes leaves its unique value to others. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void whatGoesAlongGoesWhereverItLeads(String system) throws Exception {
        String source = TestSystem.SQLITE.fresh(folder);
        String url = TestSystem.of(system).fresh(folder);
        run(
                source,
                "pragma foreign_keys = on",
                "create table bed (id int primary key, code int not null unique)",
                "create table plant (id int primary key, bed int references bed (id) on delete cascade,"
                        + " parent int references plant (id) on delete cascade)",
                "create table leaf (id int primary key, plant int references plant (id) on delete set null)",
                "insert into bed values (1, 11), (2, 12)",
                "insert into plant values (10, 1, null), (11, 2, 10), (12, 2, 11), (13, 1, null), (14, 2, 13)",
                "insert into leaf values (20, 12), (21, 13), (22, 14), (23, null)");
        Path file = crossed(source, url);
        at(
                url,
                "create table note (id int primary key, leaf bigint, plant bigint,"
                        + " constraint note_leaf foreign key (leaf) references \"leaf\" (\"id\") on delete cascade,"
                        + " constraint note_plant foreign key (plant) references \"plant\" (\"id\") on delete cascade)",
                "insert into note values (30, 20, 12), (31, 21, 13), (32, 22, null), (33, null, 11)");
        run(
                source,
                "pragma foreign_keys = on",
                "update plant set bed = 2 where id = 13",
                "delete from bed where id = 1",
                "insert into bed values (3, 11)");
        assertThat(must(0, "run", file, "--catch-up").out()).contains("4 rows taken out of the target");
        must(0, "reconcile", source, url, "bed", "plant", "leaf");
        assertThat(rows(url, "select id, leaf from note order by id")).containsExactly("31 21", "32 22");
    }

    /** Something refers to what would go along, and isn't to go: then nothing has happened. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void whatCantGoAlongKeepsAllAsItWas(String system) throws Exception {
        String source = TestSystem.SQLITE.fresh(folder);
        String url = TestSystem.of(system).fresh(folder);
        Path file = crossing(source, url);
        at(
                url,
                "create table label (id int primary key, bed bigint, constraint label_bed foreign key (bed) references \"bed\" (\"id\")"
                        + " on delete cascade)",
                "create table memo (id int primary key, label int, constraint memo_label foreign key (label) references label (id))",
                "insert into label values (1, 4), (2, 5)",
                "insert into memo values (1, 1)");
        run(source, "update plant set note = 'new' where id = 11", "delete from bed where id = 4");
        assertThat(must(3, "run", file, "--catch-up").err()).containsIgnoringCase("memo");
        assertThat(rows(url, "select \"id\", \"note\" from \"plant\" order by 1"))
                .containsExactly("10 x", "11 y", "12 z");
        assertThat(rows(url, "select \"id\", \"code\" from \"bed\"")).hasSize(5);
        assertThat(rows(url, "select id, bed from label order by id")).containsExactly("1 4", "2 5");
        at(url, "update memo set label = 2");
        must(0, "run", file, "--catch-up");
        assertThat(rows(url, "select id, bed from label")).containsExactly("2 5");
        must(0, "reconcile", source, url, "bed", "plant");
    }

    /** Nobody looked after references when it came, and it's no concern of what goes. */
    @ParameterizedTest
    @ValueSource(strings = {"H2", "SQLite", "MariaDB"})
    void whatReferredToNothingBeforeStays(String system) throws Exception {
        String source = TestSystem.SQLITE.fresh(folder);
        String url = TestSystem.of(system).fresh(folder);
        Path file = crossing(source, url);
        String unheeded =
                switch (system) {
                    case "H2" -> "set referential_integrity false";
                    case "MariaDB" -> "set foreign_key_checks = 0";
                    default -> "pragma foreign_keys = off";
                };
        at(
                url,
                unheeded,
                "create table label (id int primary key, bed bigint, constraint label_bed foreign key (bed) references \"bed\" (\"id\")"
                        + " on delete cascade)",
                "insert into label values (1, 4), (2, 99)");
        if (system.equals("H2")) {
            at(url, "set referential_integrity true");
        }
        run(source, "delete from bed where id = 4");
        must(0, "run", file, "--catch-up");
        assertThat(rows(url, "select id, bed from label")).containsExactly("2 99");
        must(0, "reconcile", source, url, "bed", "plant");
    }

    /** What a source that doesn't look after references has left isn't to go in silence with what it refers to. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void whatComesDoesNotGoAlong(String system) throws Exception {
        String source = TestSystem.SQLITE.fresh(folder);
        String url = TestSystem.of(system).fresh(folder);
        run(
                source,
                "create table bed (id int primary key)",
                "create table plant (id int primary key, bed int references bed (id) on delete cascade)",
                "insert into bed values (1), (2)",
                "insert into plant values (10, 1), (11, 2)");
        Path file = crossed(source, url);
        run(source, "delete from bed where id = 2", "insert into plant values (12, 2)");
        assertThat(must(3, "run", file, "--catch-up").err()).contains("plant", "refers to", "bed");
        assertThat(rows(url, "select \"id\", \"bed\" from \"plant\" order by 1"))
                .containsExactly("10 1", "11 2");
        assertThat(rows(url, "select \"id\", 0 from \"bed\" order by 1")).containsExactly("1 0", "2 0");
    }

    /** Nothing goes, but no order of statements gives each the other's value, and taking them out would take others along. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void recordsExchangeTheirValuesThoughOthersWouldGoWithThem(String system) throws Exception {
        String source = TestSystem.SQLITE.fresh(folder);
        String url = TestSystem.of(system).fresh(folder);
        Path file = crossing(source, url);
        at(
                url,
                "create table label (id int primary key, bed bigint not null, constraint label_bed foreign key (bed)"
                        + " references \"bed\" (\"id\") on delete cascade)",
                "insert into label values (1, 2), (2, 3)");
        if (system.equals("PostgreSQL")) {
            at(url, "comment on constraint label_bed on label is 'it''s; ours'");
        }
        List<TableDefinition> before = definitions(url);
        run(
                source,
                "update bed set code = -1 where id = 2",
                "update bed set code = 12 where id = 3",
                "update bed set code = 13 where id = 2");
        must(0, "run", file, "--catch-up");
        must(0, "reconcile", source, url, "bed", "plant");
        assertThat(rows(url, "select id, bed from label order by id")).containsExactly("1 2", "2 3");
        assertThat(definitions(url)).isEqualTo(before);
        if (system.equals("PostgreSQL")) {
            assertThat(rows(
                            url,
                            "select obj_description(oid, 'pg_constraint'), conrelid::regclass from pg_constraint"
                                    + " where conname = 'label_bed'"))
                    .containsExactly("it's; ours label");
        }
    }

    /** A merge may change what others refer to, too: not its key, but whatever else is unique. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aMergeLeavesNobodyWithNothingToReferTo(String system) throws Exception {
        String source = TestSystem.SQLITE.fresh(folder);
        String url = TestSystem.of(system).fresh(folder);
        Path file = crossing(source, url);
        at(
                url,
                "create table label (id int primary key, code bigint,"
                        + " constraint label_bed foreign key (code) references \"bed\" (\"code\"))",
                "insert into label values (1, 14)");
        run(source, "update bed set code = 16 where id = 4");
        assertThat(must(3, "run", file, "--catch-up").err()).containsIgnoringCase("label");
        assertThat(rows(url, "select \"id\", \"code\" from \"bed\" where \"id\" = 4"))
                .containsExactly("4 14");
        at(url, "update label set code = 15");
        must(0, "run", file, "--catch-up");
        assertThat(rows(url, "select \"id\", \"code\" from \"bed\" where \"id\" = 4"))
                .containsExactly("4 16");
    }
}
