package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.documents.simulated.SimulatedStore;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.testkit.servers.LocalDocuments;

/** From a database of documents by way of a set into a store that is reached with a key file, by the command line. */
class KeyedStoreTest {

    @TempDir
    Path folder;

    private static void must(Ferry run) {
        assertThat(run.code()).as(run.out() + run.err()).isZero();
    }

    @Test
    void aHerbariumOfDocumentsComesIntoTheStoreAndOutAgain() throws Exception {
        Path old = folder.resolve("old.mv.db");
        new Herbarium().specimens(120).readings(700).create(old);
        Path key = folder.resolve("key.json");
        try (LocalDocuments documents = LocalDocuments.start();
                SimulatedStore simulated = SimulatedStore.start()) {
            simulated.makeKey("herbarium", key);
            String store = simulated.url("herbarium", key);
            String source = documents.url("herbarium") + "?form=apart";
            must(Ferry.run(
                    "load",
                    old,
                    documents.url("herbarium"),
                    "--rejects",
                    folder.resolve("odd.csv"),
                    "--rejects-allowed",
                    "50"));
            Path set = folder.resolve("set");
            must(Ferry.run("export", source, set));
            must(Ferry.run("load", "--lanes", "3", set, store));
            must(Ferry.run("reconcile", set, store));
            must(Ferry.run("reconcile", "--depth", "rows", source, store));
            Ferry look = Ferry.run("look", store, "specimen");
            must(look);
            assertThat(look.out()).contains("120 rows");
            // what is there is kept, unless it is to be replaced as a whole
            assertThat(Ferry.run("load", set, store).err()).contains("already");
            assertThat(Ferry.run("load", "--onto", "append", set, store).err()).contains("there already");
            must(Ferry.run("load", "--onto", "merge", set, store, "specimen"));
            must(Ferry.run("load", "--onto", "replace", set, store));
            Path tables = folder.resolve("tables.sqlite");
            must(Ferry.run("load", store, tables));
            must(Ferry.run("reconcile", store, tables));
            // keyed objects, out and in
            Path keyed = folder.resolve("taxon.json");
            must(Ferry.run("convert", store, keyed, "taxon", "--to-setting", "shape=keyed"));
            assertThat(Files.readString(keyed)).startsWith("{");
            assertThat(Ferry.run("look", store).out() + look.out()).doesNotContain("\"d\"", "PRIVATE");
        }
    }
}
