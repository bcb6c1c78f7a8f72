package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** More columns and indexes than a target takes, and columns that are called as its own: told before anything moves. */
class TableLimitsTest {

    private static final int COLUMNS = 80;
    private static final int INDEXED = 40;

    private static final Map<String, Integer> MOST =
            Map.of("PostgreSQL", 32, "MariaDB", 32, "Derby", 16, "SQL Server", 32, "Oracle", 32);

    private static final Map<String, List<String>> OWN = Map.of(
            "PostgreSQL", List.of("xmin", "ctid"),
            "MariaDB", List.of("DB_ROW_ID"),
            "Oracle", List.of("ROWID"));

    @TempDir
    Path folder;

    private static String columns(int count, String form) {
        return IntStream.range(0, count)
                .mapToObj(i -> String.format(Locale.ROOT, form, i))
                .collect(Collectors.joining(", "));
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.databases.AllTargets#names")
    void whatIsTooMuchStaysBehindAndTheTableComes(String system) throws Exception {
        String from = TestSystem.SQLITE.fresh(folder);
        Databases.run(
                from,
                "CREATE TABLE bed (id INTEGER NOT NULL PRIMARY KEY, " + columns(COLUMNS, "c%d INTEGER") + ")",
                "CREATE INDEX broad ON bed (" + columns(INDEXED, "c%d") + ")",
                "INSERT INTO bed (id, c3) VALUES (1, 7)");
        for (int i = 0; i < COLUMNS; i++) {
            Databases.run(
                    from, "CREATE " + (i == COLUMNS - 1 ? "UNIQUE " : "") + "INDEX i" + i + " ON bed (c" + i + ")");
        }
        String to = AllTargets.fresh(system, folder);
        try (Place source = Places.open(from)) {
            TransferResult result;
            try (TargetPlace target = Places.openTarget(to)) {
                result = Load.from(source).into(target);
            }
            List<String> left = result.leftBehind().stream()
                    .filter(l -> l.kind().equals("index"))
                    .map(LeftBehind::name)
                    .toList();
            assertThat(left.contains("bed.broad")).isEqualTo(MOST.containsKey(system));
            // the primary key and 63 others
            assertThat(left).hasSize(system.equals("MariaDB") ? 18 : MOST.containsKey(system) ? 1 : 0);
            assertThat(left).doesNotContain("bed.i" + (COLUMNS - 1));
            try (Place there = Places.open(to)) {
                assertThat(there.define(there.tables().get(0)).indexes().size()
                                + there.define(there.tables().get(0))
                                        .uniqueKeys()
                                        .size())
                        .isEqualTo(COLUMNS + 1 - left.size());
                assertThat(Reconcile.between(source, there).compare().isEqual()).isTrue();
            }
        }
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.databases.AllTargets#names")
    void aColumnThatIsCalledAsTheSystemsOwnGetsAnotherName(String system) throws Exception {
        String from = TestSystem.SQLITE.fresh(folder);
        Databases.run(
                from,
                "CREATE TABLE bed (id INTEGER NOT NULL PRIMARY KEY, xmin INTEGER, ctid VARCHAR(9), XMAX INTEGER, xmin_2 INTEGER,"
                        + " DB_ROW_ID INTEGER UNIQUE, ROWID INTEGER CHECK (ROWID > 3), oid INTEGER, CHECK (xmin < xmin_2))",
                "INSERT INTO bed VALUES (1, 2, 'x', 4, 5, 6, 7, 8)");
        String to = AllTargets.fresh(system, folder);
        try (Place source = Places.open(from)) {
            TransferResult result;
            try (TargetPlace target = Places.openTarget(to)) {
                result = Load.from(source).into(target);
            }
            assertThat(result.findings())
                    .filteredOn(f ->
                            f.code() == FindingCode.NAME_CHANGED && f.text().contains("itself"))
                    .extracting(Finding::column)
                    .containsExactlyElementsOf(OWN.getOrDefault(system, List.of()));
            try (Place there = Places.open(to)) {
                assertThat(there.define(there.tables().get(0)).columnNames())
                        .doesNotContainAnyElementsOf(OWN.getOrDefault(system, List.of("none")));
                assertThat(Reconcile.between(source, there).compare().isEqual()).isTrue();
            }
        }
    }
}
