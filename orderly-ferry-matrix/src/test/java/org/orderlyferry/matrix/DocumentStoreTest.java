package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.testkit.servers.LocalDocuments;
import org.orderlyferry.testkit.servers.TestSystem;

/** A whole herbarium into a database of documents and out of it, by the command line. */
class DocumentStoreTest extends CrossingCase {

    private static final AtomicInteger NUMBER = new AtomicInteger();
    private static LocalDocuments server;

    @BeforeAll
    static void start() {
        server = LocalDocuments.start();
    }

    @AfterAll
    static void stop() {
        server.close();
    }

    private static String store(String parameters) {
        return server.url("herbarium" + NUMBER.incrementAndGet()) + parameters;
    }

    @Test
    void theHerbariumGoesThereAndOnToTablesAgain() {
        String store = store("");
        Ferry loaded = must(0, "load", old, store);
        assertThat(loaded.out())
                .contains("the column becomes the field _id")
                .contains("reference taxon.taxon_parent: documents refer", "specimen.specimen_taxon")
                .contains("To prove it");
        must(0, "reconcile", old, store, "--depth", "rows");
        Path set = folder.resolve("of-documents");
        must(0, "export", store, set);
        for (TestSystem system : TestSystem.values()) {
            String url = system.fresh(folder);
            must(0, "load", set, url);
            must(0, "reconcile", store, url, "--depth", "rows");
        }
        assertThat(must(0, "look", store, "determination").out())
                .contains("_id.specimen", "_id.number", "primary", "found")
                .containsPattern("\\d+ long");
        String whole = store("?form=whole");
        must(0, "load", store + "?form=whole", whole);
        must(0, "reconcile", store, whole.replace("?form=whole", ""));
        String apart = store("?form=apart");
        assertThat(must(0, "load", store + "?form=apart", apart).out()).contains("a list of nothing in");
        must(0, "reconcile", store + "?form=apart", apart);
    }

    @ParameterizedTest
    @ValueSource(ints = {12, 31})
    void aCrossingThatIsKilledGoesOnAndIsCaughtUpAndUndone(int at) throws Exception {
        String source = TestSystem.POSTGRESQL.fresh(folder);
        must(0, "load", old, source);
        String store = store("");
        Path file = draft(
                "documents-" + at,
                source,
                store,
                "follow-deletes: false",
                "follow-deletes: true",
                "source-moment: one",
                "source-moment: still");
        must(0, "check", file);
        int code = halted(file, at);
        assertThat(code).as(Files.readString(folder.resolve("halted.log"))).isIn(HaltedRun.KILLED, 0);
        Ferry run = must(0, "run", file);
        assertThat(run.out()).contains("proved");
        must(0, "reconcile", source, store);
        try (var connection = DriverManager.getConnection(source);
                var statement = connection.createStatement()) {
            statement.executeUpdate("UPDATE \"taxon\" SET \"author\" = 'Quill' WHERE \"id\" < 5");
            statement.executeUpdate("DELETE FROM \"chamber_reading\" WHERE \"id\" < 8");
        }
        Ferry caught = must(0, "run", file, "--catch-up");
        assertThat(caught.out())
                .containsPattern("taxon +0 +4 +296 +0")
                .containsPattern("chamber_reading +0 +0 +3,993 +7");
        must(0, "reconcile", source, store);
        must(0, "undo", file);
        assertThat(tables(store)).isEmpty();
    }

    @Test
    void whatWasThereBeforeARunComesBackWhenItIsUndone() throws Exception {
        String store = store("");
        must(0, "load", small, store);
        Path before = folder.resolve("before-documents");
        must(0, "export", store, before);
        for (String onto : new String[] {"replace", "merge"}) {
            Path file = draft("documents-" + onto, old, store, "(?m)^tables:", "tables:");
            String text = Files.readString(file);
            Files.writeString(file, text.replaceAll("(?m)^(\\s+onto: )\\w+", "$1" + onto));
            Ferry checked = Ferry.run("check", file);
            if (checked.code() != 0) {
                // a table without a key can't be merged, and that is said before anything begins
                assertThat(checked.out() + checked.err()).contains("label_draft has no key");
                continue;
            }
            must(0, "run", file);
            must(0, "undo", file);
            must(0, "reconcile", before, store);
        }
    }
}
