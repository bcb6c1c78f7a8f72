package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.sql.SQLException;
import java.util.Locale;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;

/** Backslashes in defaults, checks and enumerations mean the same wherever the definition goes, and come back as they were. */
class BackslashesInDefinitionsTest {

    @TempDir
    private Path folder;

    static Stream<String> systems() {
        return TestSystem.names();
    }

    private static void move(String from, String to) {
        try (Place source = Places.open(from);
                TargetPlace target = Places.openTarget(to)) {
            assertThat(Load.from(source).into(target).leftBehind()).isEmpty();
        }
    }

    private static void mustHold(String url, String system) throws SQLException {
        String table = system.equals("H2") ? "\"shelf\"" : "shelf";
        String columns = system.equals("H2") ? "\"no\"" : "no";
        String kind = system.equals("H2") ? "\"kind\"" : "kind";
        Databases.run(url, "INSERT INTO " + table + " (" + columns + ") VALUES (7)");
        assertThat(Databases.rows(
                        url,
                        "SELECT "
                                + (system.equals("H2") ? "\"path\", \"kind\"" : "path, kind")
                                + " FROM " + table + " WHERE " + columns + " = 7"))
                .singleElement()
                .asString()
                .contains("a\\b'c")
                .contains("x\\y")
                .doesNotContain("\\\\");
        assertThatThrownBy(() -> Databases.run(
                        url, "INSERT INTO " + table + " (" + columns + ", " + kind + ") VALUES (8, 'other')"))
                .isInstanceOf(SQLException.class);
        Databases.run(url, "DELETE FROM " + table);
    }

    @ParameterizedTest(name = "{0} to {1}")
    @MethodSource("pairs")
    void theyMeanTheSame(String from, String to) throws SQLException {
        String first = TestSystem.of(from).fresh(folder);
        String backslash = from.equals("MariaDB") ? "\\\\" : "\\";
        String q = from.equals("H2") ? "\"" : "";
        Databases.run(
                first,
                "CREATE TABLE %1$sshelf%1$s (%1$sno%1$s INTEGER NOT NULL PRIMARY KEY, %1$spath%1$s VARCHAR(20) DEFAULT 'a%2$sb''c', %1$skind%1$s VARCHAR(20) DEFAULT 'x%2$sy' CHECK (%1$skind%1$s IN ('x%2$sy', 'it''s')))"
                        .formatted(q, backslash));
        // by way of a script, as whoever runs it reads it
        String script = folder.resolve("shelf.sql").toString();
        OpenOptions options = OpenOptions.builder()
                .files(FileSettings.NONE.with("dialect", to.toLowerCase(Locale.ROOT)))
                .build();
        String second = TestSystem.of(to).fresh(folder);
        try (Place source = Places.open(first);
                TargetPlace target = Places.openTarget(PlaceAddress.of(script), options)) {
            assertThat(Load.from(source).into(target).leftBehind()).isEmpty();
        }
        try (Place source = Places.open(PlaceAddress.of(script), options);
                TargetPlace target = Places.openTarget(second)) {
            assertThat(Load.from(source).into(target).leftBehind()).isEmpty();
        }
        mustHold(second, to);
        second = TestSystem.of(to).fresh(folder);
        move(first, second);
        mustHold(second, to);
        String third = TestSystem.of(from).fresh(folder);
        move(second, third);
        mustHold(third, from);
    }

    static Stream<Arguments> pairs() {
        return systems().flatMap(from -> systems().map(to -> Arguments.of(from, to)));
    }
}
