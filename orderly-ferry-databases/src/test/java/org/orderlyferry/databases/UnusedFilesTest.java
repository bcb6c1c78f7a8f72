package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;

/** A database file that is made because its address is written to. */
class UnusedFilesTest {

    @TempDir
    private Path folder;

    @ParameterizedTest
    @ValueSource(
            strings = {
                "jdbc:sqlite:%s/new.sqlite",
                "jdbc:h2:%s/new",
                "jdbc:h2:file:%s/new;USER=sa",
                "%s/new.mv.db",
                "%s/new.sqlite"
            })
    void oneThatNothingCameIntoGoesAgain(String address) throws Exception {
        try (TargetPlace target = Places.openTarget(address.formatted(folder))) {
            assertThat(target.tables()).isEmpty();
        }
        try (Stream<Path> files = Files.list(folder)) {
            assertThat(files).isEmpty();
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"jdbc:sqlite:%s/there.sqlite", "jdbc:h2:%s/there;USER=sa"})
    void oneThatWasThereStays(String address) throws Exception {
        String url = address.formatted(folder);
        try (var connection = DriverManager.getConnection(url);
                var statement = connection.createStatement()) {
            statement.execute("CREATE TABLE bed (id INT PRIMARY KEY)");
            statement.execute("DROP TABLE bed");
        }
        try (TargetPlace target = Places.openTarget(url)) {
            assertThat(target.tables()).isEmpty();
        }
        try (Stream<Path> files = Files.list(folder)) {
            assertThat(files).isNotEmpty();
        }
        try (var connection = DriverManager.getConnection(url);
                var statement = connection.createStatement()) {
            statement.execute("CREATE TABLE \"bed\" (id INT PRIMARY KEY)");
        }
        try (TargetPlace target = Places.openTarget(url)) {
            assertThat(target.tables()).containsExactly(TableName.of("bed"));
        }
    }
}
