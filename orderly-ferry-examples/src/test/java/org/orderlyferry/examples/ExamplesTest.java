package org.orderlyferry.examples;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.examples.herbarium.Herbarium;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.transfer.Export;

/** Each example does what it says. */
class ExamplesTest {

    @TempDir
    private static Path folder;

    @BeforeAll
    static void makeTheHerbarium() throws Exception {
        new Herbarium().specimens(200).readings(100).create(folder.resolve("herbarium.mv.db"));
    }

    @Test
    void oneCallEachWay() {
        assertThat(OneCallEachWay.move(folder)).isEqualTo("equal");
    }

    @Test
    void withAListener() {
        assertThat(WithAListener.export(folder))
                .startsWith("2 tables, 115 records", "loan: 25 records", "loan_item: 90 records");
    }

    @Test
    void recordByRecord() {
        Path set = folder.resolve("taxa");
        try (Place source = Places.open(folder.resolve("herbarium.mv.db").toString())) {
            Export.from(source).tables("taxon").to(set);
        }
        assertThat(RecordByRecord.taxaByLevel(set.toString()))
                .isEqualTo(Map.of("family", 6, "genus", 30, "species", 264));
    }
}
