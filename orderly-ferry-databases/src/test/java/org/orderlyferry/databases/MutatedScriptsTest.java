package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.testkit.contract.MutatedFilesContract;

class MutatedScriptsTest extends MutatedFilesContract {

    @TempDir
    private Path scripts;

    @Override
    protected List<String> finds() {
        return List.of(
                "label.sql|CREATE TABLE t (a int, KEY k ((lower(a))));\nINSERT INTO t VALUES (1);",
                "label.sql|CREATE TABLE t (a int, KEY k (a(x)));\nINSERT INTO t VALUES (1);",
                "label.sql|CREATE",
                "label.sql|CREATE TABLE t");
    }

    /** What breaks no reader in one dialect may do so in another. */
    @ParameterizedTest
    @ValueSource(strings = {"h2", "sqlite", "postgresql", "mariadb", "sqlserver", "oracle"})
    void whatOnceBrokeAReaderIsReadOrRefusedInEachDialect(String system) throws Exception {
        for (String find : finds()) {
            Path file = Files.writeString(scripts.resolve("find.sql"), find.substring(find.indexOf('|') + 1));
            OpenOptions options = OpenOptions.builder()
                    .rejects(why -> {})
                    .files(FileSettings.NONE.with("dialect", system))
                    .build();
            try (Place place = Places.open(PlaceAddress.of(file), options)) {
                place.tables().forEach(place::define);
            } catch (FerryException e) {
                assertThat(e.getMessage()).isNotBlank();
            }
        }
    }
}
