package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;

/** Tables whose key is a number of each record, as counters give them: cut between numbers, not by walking them. */
class NumberedSlicesTest {

    @TempDir
    private static Path folder;

    @ParameterizedTest
    @EnumSource(value = TestSystem.class, mode = EnumSource.Mode.EXCLUDE, names = "H2")
    void eachRecordIsInOneSliceAndNoSliceIsLargerThanTold(TestSystem system) throws Exception {
        String url = system.fresh(folder);
        Databases.run(
                url,
                "CREATE TABLE reading (id INTEGER NOT NULL PRIMARY KEY, label VARCHAR(9))",
                "CREATE TABLE scattered (id BIGINT NOT NULL PRIMARY KEY)",
                "CREATE TABLE paired (id INTEGER NOT NULL, part INTEGER NOT NULL, PRIMARY KEY (id, part))");
        // from below zero on, with gaps: a third is missing, and twenty in a row are
        List<Integer> numbers = IntStream.rangeClosed(-70, 900)
                .filter(i -> i % 3 != 0 && (i < 400 || i > 420))
                .boxed()
                .toList();
        insert(url, "reading", numbers.stream().map(i -> i + ", 'n" + i + "'").toList());
        insert(
                url,
                "scattered",
                numbers.stream().map(i -> i * 9_000_000_000_000L + "").toList());
        insert(url, "paired", numbers.stream().map(i -> i / 9 + ", " + i).toList());
        try (Place place = Places.open(url)) {
            List<List<String>> slices = slices(place, "reading", numbers.size(), 100);
            assertThat(slices).hasSizeBetween(7, 14).allMatch(s -> s.size() <= 100);
            assertThat(slices.stream().flatMap(List::stream))
                    .containsExactlyInAnyOrderElementsOf(
                            numbers.stream().map(String::valueOf).toList());
            // an estimate may be wrong by anything
            assertThat(slices(place, "reading", 3, 2)).allMatch(s -> s.size() <= 2);
            assertThat(slices(place, "reading", 1_000_000_000, 100)).hasSizeLessThan(20);
            assertThat(slices(place, "scattered", numbers.size(), 100))
                    .as("walked, since nearly all numbers are missing")
                    .hasSize((numbers.size() + 99) / 100);
            assertThat(slices(place, "paired", numbers.size(), 100))
                    .as("no column of it tells records apart")
                    .allMatch(s -> s.size() <= 100);
        }
    }

    /** SQLite takes any text in a column of numbers, and orders it behind them. */
    @Test
    void aTextAmongTheNumbersIsInASliceToo() throws Exception {
        String url = TestSystem.SQLITE.fresh(folder);
        Databases.run(url, "CREATE TABLE reading (id INT NOT NULL PRIMARY KEY, label TEXT)");
        insert(url, "reading", IntStream.range(0, 300).mapToObj(i -> i + ", ''").toList());
        Databases.run(url, "INSERT INTO reading VALUES ('x''; DROP TABLE reading; --', 'odd')");
        try (Place place = Places.open(url)) {
            TableDefinition table = place.define(TableName.of("reading"));
            List<Slice> slices = place.cut(table, 301, new Cut(100, Map.of()));
            assertThat(slices).hasSizeBetween(3, 4);
        }
        assertThat(Databases.rows(url, "SELECT COUNT(*) FROM reading")).containsExactly("301");
    }

    private static void insert(String url, String table, List<String> rows) throws Exception {
        Databases.run(
                url,
                "INSERT INTO " + table + " VALUES "
                        + rows.stream().map(r -> "(" + r + ")").collect(Collectors.joining(", ")));
    }

    private static List<List<String>> slices(Place place, String name, long about, long rows) {
        TableDefinition table = place.tables().stream()
                .filter(t -> t.name().equalsIgnoreCase(name))
                .findFirst()
                .map(place::define)
                .orElseThrow();
        List<List<String>> slices = new ArrayList<>();
        for (Slice slice : place.cut(table, about, new Cut(rows, Map.of()))) {
            List<String> keys = new ArrayList<>();
            RecordBatch batch = new RecordBatch();
            try (RecordReader reader = place.read(slice)) {
                while (reader.read(batch)) {
                    for (int row = 0; row < batch.rows(); row++) {
                        keys.add(batch.text(row, 0));
                    }
                }
            }
            slices.add(keys);
        }
        return slices;
    }
}
