package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;

/** A comparison in which no record was read says so, and can be told to read. */
class DigestsOfServersTest {

    private static final String SAID = "taken by both servers";

    @TempDir
    private Path folder;

    @Test
    void sayThatNothingWasRead() throws Exception {
        String from = Servers.newPostgres();
        String to = Servers.newPostgres();
        for (String url : new String[] {from, to}) {
            Databases.run(
                    url,
                    "create table bed as select i id, 'moss ' || i label from generate_series(1, 40) i",
                    "create table tray as select i id, 'fern ' || i label from generate_series(1, 40) i");
        }
        Ferry equal = Ferry.run("reconcile", from, to);
        assertThat(equal.code()).isZero();
        assertThat(equal.out()).contains("Reconciled by digests of every value, " + SAID);
        assertThat(Ferry.run("reconcile", from, to, "--read-values").out())
                .contains("Reconciled by digests of every value")
                .doesNotContain(SAID);
        assertThat(Ferry.run("reconcile", from, to, "--json").out())
                .contains("\"byServers\" : true", "\"sourceDigest\" : \"server:");
        Path set = folder.resolve("set");
        assertThat(Ferry.run("export", from, set.toString()).code()).isZero();
        assertThat(Ferry.run("reconcile", set.toString(), to).out()).doesNotContain(SAID);

        Databases.run(to, "update tray set label = 'moss 7' where id = 7");
        Ferry unlike = Ferry.run("reconcile", from, to, "--depth", "rows");
        assertThat(unlike.code()).isEqualTo(1);
        assertThat(unlike.out())
                .contains("record by record, of 1 table by digests that both servers took")
                .containsPattern("tray +40 +40 +different +1 missing, 1 only there");
    }
}
