package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.MovedTable;

/** The demo's data is the same on every machine, so that figures in the documentation hold. */
@Tag("everywhere")
class HerbariumTest {

    @TempDir
    Path folder;

    @Test
    void itIsMadeOfOneSeed() throws Exception {
        Path file = folder.resolve("herbarium.mv.db");
        new Herbarium().specimens(100).readings(50).create(file);
        Map<String, String> digests = new TreeMap<>();
        try (Place place = Places.open(file.toString())) {
            for (MovedTable table : Export.from(place).to(folder.resolve("set")).tables()) {
                digests.put(table.table().toString(), table.tally().digest().toString());
            }
        }
        assertThat(digests)
                .containsEntry("taxon", "f5f3a1ad79ca9fd46cc75de8c0ff2b4c")
                .containsEntry("specimen", "0207b0ad6bb1892058089b327176e221")
                .containsEntry("calibration", "d43c98033f420bd9e852f597f7713a8f")
                .containsEntry("chamber_reading", "e470e48dc3c9a7d15759ccb578d8e19f");
    }
}
