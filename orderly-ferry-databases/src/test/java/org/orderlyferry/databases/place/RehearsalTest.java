package org.orderlyferry.databases.place;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;

/** A load that is only tried may look at records for hours. */
class RehearsalTest {

    private static String waitingShortly(String system) {
        return system.equals("PostgreSQL") ? "SET lock_timeout = '3s'" : "SET lock_wait_timeout = 3";
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#serverNames")
    void othersGetAtTheTablesMeanwhile(String system, @TempDir Path folder) throws Exception {
        String url = TestSystem.of(system).fresh(folder);
        String bed = TestSystem.of(system).quote("bed");
        Databases.run(url, "CREATE TABLE " + bed + " (id INT PRIMARY KEY, name VARCHAR(9))");
        Path file = Files.writeString(folder.resolve("bed.csv"), "id,name\n1,North\n");
        try (Place source = Places.open(file);
                TargetPlace target = Places.openTarget(url);
                Loading rehearsal = target.rehearse(
                        source.tables().stream().map(source::define).toList(), LoadModes.all(LoadMode.APPEND))) {
            assertThat(rehearsal.isRefused()).isFalse();
            if (system.equals("PostgreSQL")) {
                assertThat(Databases.rows(
                                url,
                                "SELECT state FROM pg_stat_activity WHERE application_name = 'Orderly Ferry'"
                                        + " AND datname = current_database()"))
                        .containsExactly("idle");
            }
            Databases.run(
                    url, waitingShortly(system), "INSERT INTO " + bed + " VALUES (1, 'own')", "DROP TABLE " + bed);
        }
    }
}
