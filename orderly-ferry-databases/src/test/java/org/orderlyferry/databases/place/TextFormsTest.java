package org.orderlyferry.databases.place;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.place.TextForms;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;

/** Texts have the same form if their system takes them for the same, and only then. */
class TextFormsTest {

    private static final List<String> TEXTS = List.of(
            "",
            " ",
            "a",
            "A",
            "ä",
            "Ä",
            "a ",
            "a  ",
            " a",
            "aa",
            "å",
            "Å",
            "ß",
            "ss",
            "SS",
            "ẞ",
            "ﬀ",
            "ff",
            "æ",
            "ae",
            "i",
            "ı",
            "I",
            "İ",
            "y",
            "Y",
            "ü",
            "v",
            "w",
            "W",
            "ch",
            "c",
            "h",
            "hc",
            "ll",
            "l",
            "ñ",
            "n",
            "ǆ",
            "dž",
            "\u0001a",
            "a\u0001",
            "a\t",
            "a\n",
            "a\u0001 ",
            "a \u0001",
            "a \t",
            "日",
            "本",
            "ア",
            "ｱ",
            "あ",
            "\uD835\uDCB3",
            "X",
            "\uD83D\uDE00",
            "\uD83D\uDE01",
            "-a",
            "a-b",
            "ab",
            "a b",
            "é",
            "e\u0301",
            "e",
            "１",
            "1",
            "'",
            "\\",
            "%",
            "lj",
            "ĳ",
            "ij",
            "σ",
            "ς",
            "Σ",
            "k",
            "\u212A",
            "\u00AD",
            "a\u00ADb");

    @TempDir
    private Path folder;

    private static String pairs(List<String> texts, List<String> forms) {
        return IntStream.range(0, texts.size())
                .boxed()
                .flatMap(i -> IntStream.range(i + 1, texts.size())
                        .filter(j -> forms.get(i).equals(forms.get(j)))
                        .mapToObj(j -> i + "=" + j))
                .collect(Collectors.joining(" "));
    }

    private static String pairs(String url, String table) throws SQLException {
        return String.join(
                " ",
                Databases.rows(
                                url,
                                "SELECT p.i, q.i FROM " + table + " p JOIN " + table
                                        + " q ON p.x = q.x AND p.i < q.i ORDER BY p.i, q.i")
                        .stream()
                        .map(p -> p.replace(" ", "="))
                        .toList());
    }

    private static void fill(String url, String table, List<String> texts) throws SQLException {
        try (Connection connection = Databases.connect(url);
                PreparedStatement insert = connection.prepareStatement("INSERT INTO " + table + " VALUES (?, ?)")) {
            for (int i = 0; i < texts.size(); i++) {
                insert.setInt(1, i);
                insert.setString(2, texts.get(i));
                insert.addBatch();
            }
            insert.executeBatch();
        }
    }

    private static Optional<TextForms> forms(TargetPlace place, String table) {
        TableName name = place.tables().stream()
                .filter(t -> t.name().equalsIgnoreCase(table))
                .findFirst()
                .orElseThrow();
        ColumnDefinition column = place.define(name).columns().get(1);
        return place.textForms(column);
    }

    @Test
    void underEveryCollationOfMariaThatIsKnown() throws Exception {
        String url = TestSystem.MARIADB.fresh(folder);
        List<String> collations = Databases.rows(
                url,
                "SELECT FULL_COLLATION_NAME FROM information_schema.COLLATION_CHARACTER_SET_APPLICABILITY"
                        + " WHERE CHARACTER_SET_NAME IN ('utf8mb4', 'utf8mb3', 'latin1', 'latin2', 'cp1250') ORDER BY 1");
        int asked = 0;
        for (String collation : collations) {
            List<String> texts = TEXTS.stream()
                    .filter(t -> collation.startsWith("utf8mb4")
                            || t.chars().noneMatch(c -> Character.isSurrogate((char) c))
                                    && (collation.startsWith("utf8")
                                            || StandardCharsets.US_ASCII
                                                    .newEncoder()
                                                    .canEncode(t)))
                    .toList();
            Databases.run(
                    url,
                    "CREATE OR REPLACE TABLE t (i INT, x VARCHAR(20) CHARACTER SET " + collation.replaceFirst("_.*", "")
                            + " COLLATE " + collation + ")");
            Optional<TextForms> forms;
            List<String> told;
            try (TargetPlace place = Places.openTarget(url)) {
                forms = forms(place, "t");
                told = forms.map(f -> f.of(texts)).orElse(List.of());
            }
            if (forms.isPresent()) {
                fill(url, "t", texts);
                assertThat(pairs(texts, told)).as(collation).isEqualTo(pairs(url, "t"));
                asked++;
            }
        }
        assertThat(asked).as("of %s collations", collations.size()).isGreaterThan(150);
    }

    @Test
    void whereFilesCompareWithoutCase() throws Exception {
        String sqlite = TestSystem.SQLITE.fresh(folder);
        String h2 = TestSystem.H2.fresh(folder);
        check(sqlite, "CREATE TABLE t (i INT, x TEXT COLLATE NOCASE)");
        check(sqlite, "CREATE TABLE u (i INT, x TEXT COLLATE RTRIM)");
        check(sqlite, "CREATE TABLE v (i INT, x TEXT collate nocase)");
        check(sqlite, "CREATE TABLE w (i INT, x TEXT Collate \"Rtrim\" NOT NULL)");
        Databases.run(sqlite, "CREATE TABLE bytes (i INT, x TEXT COLLATE binary)");
        try (TargetPlace place = Places.openTarget(sqlite)) {
            assertThat(place.define(TableName.of("bytes")).columns().get(1).collation())
                    .isEmpty();
        }
        check(h2, "CREATE TABLE t (i INT, x VARCHAR_IGNORECASE(20))");
    }

    @Test
    void inPostgresOnlyCollationsByWhichDifferentTextsAreTheSameAreUnknown() throws Exception {
        String url = TestSystem.POSTGRESQL.fresh(folder);
        check(url, "CREATE TABLE t (i INT, x TEXT COLLATE \"de-x-icu\")");
        check(url, "CREATE TABLE u (i INT, x TEXT COLLATE \"C\")");
        Databases.run(
                url,
                "CREATE COLLATION \"no case\" (provider = icu, locale = 'und-u-ks-level2', deterministic = false)",
                "CREATE TABLE v (i INT, x TEXT COLLATE \"no case\")");
        try (TargetPlace place = Places.openTarget(url)) {
            assertThat(forms(place, "v")).isEmpty();
        }
        if (!Databases.rows(url, "SELECT 1 FROM pg_available_extensions WHERE name = 'citext'")
                .isEmpty()) {
            Databases.run(url, "CREATE EXTENSION citext");
            check(url, "CREATE TABLE w (i INT, x citext)");
        }
    }

    private static void check(String url, String table) throws SQLException {
        Databases.run(url, table);
        String name = table.replaceFirst("CREATE TABLE (\\w+).*", "$1");
        fill(url, name, TEXTS);
        try (TargetPlace place = Places.openTarget(url)) {
            assertThat(pairs(TEXTS, forms(place, name).orElseThrow().of(TEXTS)))
                    .as(table)
                    .isEqualTo(pairs(url, name));
        }
    }

    @Test
    void theyAreTheSameHoweverManyAreAskedForAtOnce() throws Exception {
        String url = TestSystem.MARIADB.fresh(folder);
        Databases.run(url, "CREATE TABLE t (i INT, x VARCHAR(20) COLLATE utf8mb4_unicode_ci)");
        List<String> many = IntStream.range(0, 30_000)
                .mapToObj(i -> (i % 3 == 0 ? "É" : "e") + i / 3 + "x".repeat(i % 200))
                .toList();
        try (TargetPlace place = Places.openTarget(url)) {
            TextForms forms = forms(place, "t").orElseThrow();
            List<String> all = forms.of(many);
            assertThat(all).hasSameSizeAs(many);
            assertThat(forms.of(many.subList(17, 1_200))).isEqualTo(all.subList(17, 1_200));
            assertThat(new TreeSet<>(all))
                    .hasSize(new TreeSet<>(
                                    many.stream().map(t -> t.replace('É', 'e')).toList())
                            .size());
            assertThat(forms.of(List.of())).isEmpty();
        }
    }
}
