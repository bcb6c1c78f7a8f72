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
                .containsEntry("taxon", "92bffeefbd84213436cc77b8001c9328")
                .containsEntry("specimen", "277a6c1534644169597176f2d420f5b4")
                .containsEntry("calibration", "77ec0394866d34b13beaa1c1a34559c6")
                .containsEntry("chamber_reading", "852e766cf6d6c838200fc7dbb316327b");
    }
}
