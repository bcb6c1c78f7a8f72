package org.orderlyferry.databases.driver;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Merged;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.work.Load;

/** What is merged over a driver alone differs where a system's own equality may not say so: in blanks, capitals and large objects. */
class DifferingTest {

    private static final AtomicInteger NUMBER = new AtomicInteger();
    private static final String MANY = "moss ".repeat(20_000);

    @TempDir
    private static Path folder;

    @BeforeAll
    static void keepTheLogAway() {
        System.setProperty(
                "derby.stream.error.file", folder.resolve("derby.log").toString());
    }

    private static String fresh(String system) throws Exception {
        String url = system.equals("derby")
                ? "jdbc:derby:memory:differing" + NUMBER.incrementAndGet() + ";create=true"
                : "jdbc:hsqldb:mem:differing" + NUMBER.incrementAndGet();
        String bytes = system.equals("derby") ? "VARCHAR(20) FOR BIT DATA" : "VARBINARY(20)";
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            statement.execute(
                    "CREATE TABLE \"plant\" (\"id\" VARCHAR(9) NOT NULL PRIMARY KEY, \"name\" VARCHAR(20), \"story\" CLOB,"
                            + " \"code\" " + bytes + ")");
        }
        return url;
    }

    private static ListedPlace plants(String... rows) {
        return new ListedPlace()
                .with(
                        TableDefinition.named("plant")
                                .column("id", LogicalType.varchar(9))
                                .column("name", LogicalType.varchar(20))
                                .column("story", LogicalType.CLOB)
                                .column("code", LogicalType.of(TypeName.VARBINARY, 20))
                                .primaryKey("id")
                                .build(),
                        List.of(rows).stream()
                                .map(r -> List.of(r.split("\\|", -1)))
                                .toList());
    }

    private static Merged merged(ListedPlace from, String url) {
        try (TargetPlace target = Places.openTarget(url)) {
            return Load.from(from)
                    .mode(LoadMode.MERGE)
                    .into(target)
                    .tables()
                    .get(0)
                    .merged()
                    .orElseThrow();
        }
    }

    private static String base64(String bytes) {
        return Base64.getEncoder().encodeToString(bytes.getBytes(java.nio.charset.StandardCharsets.ISO_8859_1));
    }

    @ParameterizedTest
    @ValueSource(strings = {"derby", "hsqldb"})
    void whatIsMergedBecomesWhatComes(String system) throws Exception {
        String url = fresh(system);
        merged(
                plants(
                        "a|moss|short|" + base64("a"),
                        "b|fern|" + MANY + "|" + base64("b"),
                        "c|heath|x|" + base64("c"),
                        "d|fir|x|" + base64("d")),
                url);
        ListedPlace changed = plants(
                "a|moss |short|" + base64("a"),
                "b|fern|" + MANY + "!|" + base64("b"),
                "c|heath|x|" + base64("c "),
                "d|fir|x|" + base64("d\0"));
        assertThat(merged(changed, url).updated()).isEqualTo(4);
        try (Place target = Places.open(url)) {
            assertThat(Reconcile.between(changed, target)
                            .depth(Depth.DIGESTS)
                            .compare()
                            .isEqual())
                    .isTrue();
        }
        // Derby compares no large objects, so that all of them are written once more
        assertThat(merged(changed, url).updated()).isEqualTo(system.equals("derby") ? 4 : 0);
    }

    @Test
    void whereNothingIsKnownATextIsTakenToDifferAndANumberIsNot() {
        assertThat(Differing.of(Map.of(), TypeName.VARCHAR, "a", "b")).isEqualTo("1 = 1");
        assertThat(Differing.of(Map.of(), TypeName.BLOB, "a", "b")).isEqualTo("1 = 1");
        assertThat(Differing.of(Map.of(), TypeName.INTEGER, "a", "b")).isEqualTo("a <> b");
    }
}
