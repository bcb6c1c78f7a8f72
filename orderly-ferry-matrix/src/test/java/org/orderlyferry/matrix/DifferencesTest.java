package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Base64;
import java.util.List;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.reconcile.RowCounts;
import org.orderlyferry.reconcile.RowDifference;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;

/** Differences between two places of any kind, found record by record; and a target that is mended by them. */
class DifferencesTest {

    private static final TableDefinition LABEL = TableDefinition.named("label")
            .column(ColumnDefinition.named("shelf", LogicalType.varchar(60))
                    .nullable(false)
                    .build())
            .column(ColumnDefinition.named("no", LogicalType.BIGINT)
                    .nullable(false)
                    .build())
            .column("note", LogicalType.varchar(200))
            .column("size", LogicalType.decimal(14, 4))
            .column("ratio", LogicalType.DOUBLE)
            .column("dry", LogicalType.BOOLEAN)
            .column("day", LogicalType.DATE)
            .column("at", LogicalType.of(TypeName.TIMESTAMP, 3))
            .column("scan", LogicalType.BLOB)
            .primaryKey("shelf", "no")
            .build();

    private static final List<String> SHELVES =
            List.of("A", "a", "ä", "'; DROP TABLE label; --", "\u001b[31mred", "z\\0", "日本 \uD83C\uDF3F", "\"q\"");

    @TempDir
    private Path folder;

    /** Pairs of tables that differ in known ways. */
    private static final class Pair {
        private final List<List<String>> source = new ArrayList<>();
        private final List<List<String>> target = new ArrayList<>();
        private final TreeMap<String, String> expected = new TreeMap<>();

        Pair(long seed, int size) {
            Random random = new Random(seed);
            for (int no = 0; no < size; no++) {
                List<String> row = row(random, no);
                String key = row.get(0) + "/" + row.get(1);
                switch (random.nextInt(12)) {
                    case 0 -> {
                        source.add(row);
                        expected.put(key, "MISSING []");
                    }
                    case 1 -> {
                        target.add(row);
                        expected.put(key, "EXTRA []");
                    }
                    case 2 -> {
                        source.add(row);
                        List<String> changed = new ArrayList<>(row);
                        int column = 2 + random.nextInt(7);
                        changed.set(column, changed.get(column) == null ? other(column) : null);
                        target.add(changed);
                        expected.put(key, "DIFFERENT [" + LABEL.columnNames().get(column) + "]");
                    }
                    case 3 -> {
                        source.add(row);
                        List<String> changed = new ArrayList<>(row);
                        changed.set(2, (row.get(2) == null ? "" : row.get(2)) + " ");
                        changed.set(3, "0.0001");
                        target.add(changed);
                        expected.put(key, "DIFFERENT [note, size]");
                    }
                    default -> {
                        source.add(row);
                        target.add(0, row);
                    }
                }
            }
        }

        private static String other(int column) {
            return switch (column) {
                case 2 -> "null";
                case 3 -> "-1.5";
                case 4 -> "1.0E-7";
                case 5 -> "false";
                case 6 -> "2000-02-29";
                case 7 -> "2000-02-29T00:00:00.001";
                default -> Base64.getEncoder().encodeToString(new byte[] {0, -1});
            };
        }

        private static List<String> row(Random random, int no) {
            return Arrays.asList(
                    SHELVES.get(random.nextInt(SHELVES.size())),
                    Integer.toString(no - 50),
                    random.nextInt(5) == 0 ? null : "note " + random.nextInt(9) + " it's \"so\",\nand so",
                    random.nextInt(5) == 0 ? null : random.nextInt(1000) + ".25",
                    random.nextInt(5) == 0 ? null : "0." + (1 + random.nextInt(9)),
                    random.nextInt(5) == 0 ? null : Boolean.toString(random.nextBoolean()),
                    random.nextInt(5) == 0 ? null : "2031-04-0" + (1 + random.nextInt(9)),
                    random.nextInt(5) == 0 ? null : "2031-04-09T11:30:0" + random.nextInt(10),
                    random.nextInt(5) == 0
                            ? null
                            : Base64.getEncoder().encodeToString(("b" + no).getBytes(StandardCharsets.UTF_8)));
        }
    }

    /** A place that holds records: a database of a system, a file, or a set. */
    private String place(String kind, List<List<String>> rows) {
        ListedPlace listed = new ListedPlace().with(LABEL, rows);
        if (kind.equals("set")) {
            Path set = folder.resolve("set-" + System.nanoTime());
            Export.from(listed).sliceRows(40).to(set);
            return set.toString();
        }
        String address = kind.startsWith(".")
                ? folder.resolve("f" + System.nanoTime())
                        .resolve("label" + kind)
                        .toString()
                : TestSystem.of(kind).fresh(folder);
        if (kind.startsWith(".")) {
            assertThat(Path.of(address).getParent().toFile().mkdirs()).isTrue();
        }
        try (TargetPlace target = Places.openTarget(address)) {
            Load.from(listed).into(target);
        }
        return address;
    }

    static Stream<Arguments> pairs() {
        List<String> kinds = List.of("set", ".csv", ".jsonl", ".json");
        List<String> systems = TestSystem.names().toList();
        Stream<Arguments> between = IntStream.range(0, systems.size())
                .mapToObj(i -> Arguments.of(systems.get(i), systems.get((i + 1) % systems.size())));
        Stream<Arguments> files = kinds.stream()
                .flatMap(k ->
                        Stream.of(Arguments.of(k, systems.get(k.length() % systems.size())), Arguments.of("H2", k)));
        return Stream.concat(between, files);
    }

    @ParameterizedTest(name = "{0} and {1}")
    @MethodSource("pairs")
    void justTheKnownOnesAreFound(String one, String other) {
        Pair pair = new Pair(one.hashCode() * 31L + other.hashCode(), 240);
        TreeMap<String, String> found = new TreeMap<>();
        try (Place source = Places.open(place(one, pair.source));
                Place target = Places.open(place(other, pair.target))) {
            ReconcileResult result = Reconcile.between(source, target)
                    .depth(Depth.ROWS)
                    .key("label", List.of("shelf", "no"))
                    .lanes(2)
                    .differences(d -> found.put(key(d), d.kind() + " " + d.differing()), 1000)
                    .compare();
            RowCounts counts = result.tables().get(0).rows().orElseThrow();
            assertThat(counts.all()).isEqualTo(pair.expected.size());
        }
        assertThat(found).isEqualTo(pair.expected);
    }

    private static String key(RowDifference difference) {
        return difference.any().text(0) + "/" + difference.any().text(1);
    }

    /** The same by the server's own means: both tables in one PostgreSQL. */
    @Test
    void aServersOwnSqlFindsTheSame() throws Exception {
        Pair pair = new Pair(5, 400);
        String url = Servers.newPostgres();
        for (List<List<String>> rows : List.of(pair.source, pair.target)) {
            TableDefinition named = LABEL.toBuilder()
                    .name(org.orderlyferry.model.TableName.of(rows == pair.source ? "old" : "new"))
                    .build();
            try (TargetPlace target = Places.openTarget(url)) {
                Load.from(new ListedPlace().with(named, rows)).into(target);
            }
        }
        long only = Long.parseLong(
                Databases.rows(url, "SELECT count(*) FROM (SELECT * FROM old EXCEPT SELECT * FROM new) x")
                        .get(0));
        long there = Long.parseLong(
                Databases.rows(url, "SELECT count(*) FROM (SELECT * FROM new EXCEPT SELECT * FROM old) x")
                        .get(0));
        RowCounts counts;
        try (Place source = Places.open(place("H2", pair.source));
                Place target = Places.open(place("MariaDB", pair.target))) {
            counts = Reconcile.between(source, target)
                    .depth(Depth.ROWS)
                    .compare()
                    .tables()
                    .get(0)
                    .rows()
                    .orElseThrow();
        }
        assertThat(counts.missing() + counts.different()).isEqualTo(only);
        assertThat(counts.extra() + counts.different()).isEqualTo(there);
    }

    @ParameterizedTest
    @ValueSource(strings = {"differences.csv", "differences.jsonl", "differences.xlsx", "differences"})
    void aTargetIsMendedByThem(String name) throws Exception {
        Pair pair = new Pair(name.hashCode(), 120);
        String source = place("H2", pair.source);
        String target = place("SQLite", pair.target);
        Path file = folder.resolve(name);
        Ferry compared = Ferry.run("reconcile", source, target, "--differences", file);
        assertThat(compared.code()).isEqualTo(1);
        assertThat(compared.out())
                .contains("All records that differ are in", "The first 20 of")
                .doesNotContain("\u001b");
        assertThat(compared.out().contains("--as label --onto merge")).isEqualTo(name.contains("."));
        assertThat(Files.exists(file)).isTrue();
        assertThat(Ferry.run("reconcile", source, target, "--differences", file).code())
                .isEqualTo(2);
        Ferry mended = Ferry.run(
                "load", file, target, "--onto", "merge", "--where", "side = 'source'", "--skip", "difference,side");
        assertThat(mended.code()).as(mended.err()).isZero();
        Ferry again = Ferry.run("reconcile", source, target, "--depth", "rows", "--json");
        long extra = pair.expected.values().stream()
                .filter(v -> v.startsWith("EXTRA"))
                .count();
        assertThat(again.out()).contains("\"missing\" : 0", "\"extra\" : " + extra, "\"different\" : 0");
    }

    @Test
    void whatWasFoundIsToldAlsoWhereTheFileCantHoldIt() throws Exception {
        String url = "jdbc:sqlite:" + folder.resolve("two.sqlite");
        Databases.run(
                url,
                "CREATE TABLE a (id INTEGER NOT NULL PRIMARY KEY)",
                "CREATE TABLE b (id INTEGER NOT NULL PRIMARY KEY)",
                "INSERT INTO a VALUES (1)");
        String other = "jdbc:sqlite:" + folder.resolve("other.sqlite");
        Databases.run(
                other,
                "CREATE TABLE a (id INTEGER NOT NULL PRIMARY KEY)",
                "CREATE TABLE b (id INTEGER NOT NULL PRIMARY KEY)",
                "INSERT INTO b VALUES (2)");
        Path file = folder.resolve("both.csv");
        Ferry ferry = Ferry.run("reconcile", url, other, "--differences", file);
        assertThat(ferry.code()).isEqualTo(2);
        assertThat(ferry.out()).contains("1 missing", "1 only there", "0 of 2 tables equal");
        assertThat(ferry.err()).contains("one table");
        assertThat(file).doesNotExist();
        Ferry same = Ferry.run("reconcile", url, url, "--differences", file);
        assertThat(same.code()).isZero();
        assertThat(same.out()).contains("No record differs");
        assertThat(file).doesNotExist();
    }

    @Test
    void rulesAndKeysAreToldAtTheCommandLine() throws Exception {
        Path one = Files.writeString(folder.resolve("one.csv"), "code,name,seen\nM1,Moss,1\nF2,Fern,2\n");
        Path other = Files.writeString(folder.resolve("other.csv"), "code,name,seen\nF2,FERN,5\nM1,moss ,7\n");
        Ferry ferry = Ferry.run(
                "reconcile",
                one,
                other,
                "--key",
                "code",
                "--rule",
                "any-case",
                "--rule",
                "trailing-blanks",
                "--rule",
                "without=seen");
        assertThat(ferry.out()).contains("not compared: seen", "equal by any-case", "by 3 rules, ");
        assertThat(ferry.code()).as(ferry.out() + ferry.err()).isZero();
        assertThat(Ferry.run("reconcile", one, other, "--depth", "digests", "--rule", "any-case")
                        .code())
                .isEqualTo(2);
        assertThat(Ferry.run("reconcile", one, other, "--key", "one:nowhere").err())
                .contains("nowhere");
        assertThat(Ferry.run("reconcile", one, other, "--key", "code,nowhere").err())
                .contains("code, nowhere");
        assertThat(Ferry.run("reconcile", one, other, "--rule", "without=nowhere")
                        .err())
                .contains("nowhere");
        Ferry odd = Ferry.run("reconcile", one, other, "--differences", folder.resolve("d.parquet"));
        assertThat(odd.code()).isEqualTo(2);
        assertThat(odd.err()).contains("files of the kind .parquet");
        assertThat(Ferry.run("reconcile", one, other, "--rule", "tidy").err()).contains("'tidy' is no rule");
    }

    @Test
    void aSpreadsheetIsHeldAgainstATableOfAnotherName() throws Exception {
        Path file = Files.writeString(folder.resolve("plants.csv"), "code,name,height\nM1,Moss,0.5\nF2,Fern,12\n");
        Path sheet = folder.resolve("plants.xlsx");
        String url = "jdbc:sqlite:" + folder.resolve("plants.sqlite");
        assertThat(Ferry.run("convert", file, sheet).code()).isZero();
        assertThat(Ferry.run("load", file, url, "--as", "plant", "--key", "code")
                        .code())
                .isZero();
        Databases.run(url, "CREATE TABLE other (id INTEGER NOT NULL PRIMARY KEY)");
        assertThat(Ferry.run("reconcile", sheet, url, "plants").out()).contains("missing in target");
        Ferry equal = Ferry.run("reconcile", sheet, url, "--as", "plant", "--key", "code");
        assertThat(equal.code()).as(equal.out() + equal.err()).isZero();
        assertThat(equal.out()).contains("is compared with table plant");
        Databases.run(url, "UPDATE plant SET height = 13 WHERE code = 'F2'");
        Ferry different = Ferry.run("reconcile", sheet, url, "--as", "plant", "--key", "code");
        assertThat(different.code()).isEqualTo(1);
        assertThat(different.out()).containsPattern("code=F2 +height +12(\\.0)? +13(\\.0)?");
        assertThat(Ferry.run("reconcile", url, sheet, "--as", "plants").err()).contains("these are 2");
    }

    @Test
    void tablesThatHaveNoColumnInCommonAreDifferent() throws Exception {
        Path one = Files.writeString(folder.resolve("these.csv"), "a,b\n1,2\n");
        Path other = Files.writeString(folder.resolve("those.csv"), "c,d\n1,2\n3,4\n");
        for (String depth : List.of("counts", "digests", "rows")) {
            Ferry ferry = Ferry.run("reconcile", one, other, "--depth", depth);
            assertThat(ferry.code()).as(ferry.err()).isEqualTo(1);
            assertThat(ferry.out()).contains("a (only at the source)", "d (only at the target)");
        }
    }

    @Test
    void amongManyTablesThoseThatDifferStandOut() throws Exception {
        String one = "jdbc:sqlite:" + folder.resolve("many.sqlite");
        String other = "jdbc:sqlite:" + folder.resolve("as-many.sqlite");
        for (String url : List.of(one, other)) {
            Databases.run(
                    url,
                    IntStream.range(0, 40)
                            .mapToObj(i -> "CREATE TABLE shelf" + i + " (id INTEGER NOT NULL PRIMARY KEY)")
                            .toArray(String[]::new));
        }
        assertThat(Ferry.run("reconcile", one, other).out())
                .contains("all 40 tables are equal; --all lists them", "40 of 40 tables equal")
                .doesNotContain("shelf7");
        Databases.run(other, "INSERT INTO shelf7 VALUES (1)");
        assertThat(Ferry.run("reconcile", one, other).out())
                .contains("shelf7", "and 39 tables that are equal", "39 of 40 tables equal")
                .doesNotContain("shelf8");
        assertThat(Ferry.run("reconcile", one, other, "--all").out()).contains("shelf7", "shelf8");
    }
}
