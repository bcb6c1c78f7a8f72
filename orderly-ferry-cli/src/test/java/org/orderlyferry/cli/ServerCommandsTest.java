package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;

/** The command line against real servers: from PostgreSQL to MariaDB, by way of a set. */
class ServerCommandsTest {

    @TempDir
    private static Path folder;

    private static String postgres;

    @BeforeAll
    static void makeTheOldSystem() throws Exception {
        Path origin = folder.resolve("origin.mv.db");
        new Herbarium().specimens(100).readings(500).create(origin);
        Path set = folder.resolve("origin");
        postgres = Servers.newPostgres();
        assertThat(Ferry.run("export", origin, set).code()).isZero();
        Ferry load = Ferry.run("load", set, postgres);
        assertThat(load.code()).as(load.err()).isZero();
        assertThat(load.out()).contains("sheet_image.checksum: BYTEA has no length; BINARY(32) loses its own");
    }

    @Test
    void fromPostgresToMariaAndProved() throws Exception {
        Path set = folder.resolve("moved");
        String maria = Servers.newMaria();
        Ferry export = Ferry.run("export", postgres, set, "taxon", "coll*", "local*", "specimen", "loan*");
        assertThat(export.code()).as(export.err()).isZero();
        Ferry load = Ferry.run("load", set, maria);
        assertThat(load.code()).as(load.err()).isZero();
        assertThat(load.out())
                .contains(
                        "specimen.verified: MariaDB's TIMESTAMP ends in 2038, so instants are held as DATETIME(6), in UTC")
                .contains("specimen.guid: MariaDB's UUID refuses identifiers of unknown variants");
        assertThat(Ferry.run("reconcile", set, maria).code()).isZero();
        Ferry whole = Ferry.run("reconcile", postgres, maria);
        assertThat(whole.code()).isEqualTo(1);
        assertThat(whole.out()).contains("6 of 13 tables equal.").contains("missing in target");
        assertThat(Ferry.run("load", set, maria).err())
                .contains("has these tables already: ", "loan (25 records)", "nothing was changed");
        assertThat(Ferry.run("look", maria, "specimen").out())
                .contains("CHARACTER(36)", "(taxon) → taxon (id)  specimen_taxon", "identity, next 101");
    }

    @Test
    void aQueryIsExportedWithTheTypesThatTheServerGivesIt() {
        Path set = folder.resolve("asked");
        Ferry export = Ferry.run(
                "export",
                postgres,
                set,
                "--query",
                "few=SELECT id, insured_value, guid, verified FROM specimen WHERE id < 9");
        assertThat(export.code()).as(export.err()).isZero();
        assertThat(Ferry.run("look", set, "few").out())
                .contains("8 rows", "BIGINT", "DECIMAL(12,2)", "UUID", "TIMESTAMP(6) WITH TIME ZONE");
        assertThat(Ferry.run("export", postgres, folder.resolve("bad"), "--query", "x=SELECT 1 FROM nowhere")
                        .err())
                .contains("the query x can't be used: ");
    }

    @Test
    void theSourceCannotBeChangedByAccident() {
        Ferry export = Ferry.run(
                "export",
                postgres,
                folder.resolve("harmless"),
                "--query",
                "gone=WITH d AS (DELETE FROM chamber_reading RETURNING id) SELECT * FROM d");
        assertThat(export.code()).isEqualTo(2);
        assertThat(export.err()).contains("isn't one SELECT that only reads");
        assertThat(Ferry.run("look", postgres, "chamber_reading").out()).contains("500 rows");
    }

    @Test
    void aTableThatTheUserMayNotReadIsToldOf() throws Exception {
        try (Connection connection = DriverManager.getConnection(postgres);
                Statement statement = connection.createStatement()) {
            statement.execute("CREATE ROLE guest LOGIN");
            statement.execute("GRANT SELECT ON ALL TABLES IN SCHEMA public TO guest");
            statement.execute("REVOKE SELECT ON loan FROM guest");
        }
        String guest = postgres.replace("user=postgres", "user=guest");
        Path set = folder.resolve("guest");
        Ferry export = Ferry.run("export", guest, set);
        assertThat(export.code()).as(export.err()).isEqualTo(1);
        assertThat(export.out())
                .contains("Couldn't be read (1)", "table loan can't be counted: the user may not do that")
                .contains("The set lacks 1 table");
        Ferry look = Ferry.run("look", set);
        assertThat(look.out()).contains("12 tables", "table loan: ").doesNotContain("\n  loan  ");
        Ferry server = Ferry.run("look", guest);
        assertThat(server.code()).isEqualTo(1);
        assertThat(server.out()).contains("12 tables", "Can't be read (1)");
        Ferry refused = Ferry.run("export", guest, folder.resolve("nothing"), "loan");
        assertThat(refused.code()).isEqualTo(3);
        assertThat(folder.resolve("nothing")).doesNotExist();
        assertThat(Ferry.run("export", guest, folder.resolve("some"), "taxon").code())
                .isZero();
    }

    /** What stops a command says how to go on, and what goes on without a record doesn't call the set complete. */
    @Test
    void aValueThatCannotTravelCostsItsRecord() throws Exception {
        String url = Servers.newPostgres();
        Databases.run(
                url,
                "CREATE TABLE seen (id INTEGER PRIMARY KEY, n NUMERIC)",
                "INSERT INTO seen VALUES (1, 1), (2, 'NaN'), (3, 3)");
        Path set = folder.resolve("seen");
        Path rejects = folder.resolve("seen-rejects.csv");
        Ferry stopped = Ferry.run("export", url, set);
        assertThat(stopped.code()).isEqualTo(3);
        assertThat(stopped.err())
                .contains("table seen, record 2 (id = 2), column n: 'NaN'")
                .contains("To go on without such records, each kept with its reason: --rejects FILE.");
        assertThat(set).doesNotExist();
        Ferry export = Ferry.run("export", url, set, "--rejects", rejects);
        assertThat(export.code()).as(export.err()).isEqualTo(1);
        assertThat(export.out())
                .contains("The set lacks what was rejected")
                .contains("3 read = 2 written + 1 rejected + 0 left out by a condition");
        assertThat(rejects).content().contains(",2,n,NaN,", ",id = 2");
        Path target = folder.resolve("seen.sqlite");
        Ferry load = Ferry.run("load", url, target, "--rejects", rejects, "--rejects-allowed", "1");
        assertThat(load.code()).as(load.err()).isZero();
        assertThat(load.out()).contains("3 read = 2 written + 1 rejected");
        assertThat(Ferry.run("reconcile", set, target).code()).isZero();
        assertThat(Ferry.run("reconcile", url, target).code()).isEqualTo(3);
        for (String depth : new String[] {"digests", "rows"}) {
            Ferry proof = Ferry.run("reconcile", url, target, "--depth", depth, "--rejects", rejects);
            assertThat(proof.code()).as(proof.err()).isEqualTo(1);
            assertThat(proof.out())
                    .contains("1 of 1 table equal.")
                    .contains(
                            "1 record of the source can't be read, and wasn't compared; it stands with its reason in ");
            assertThat(rejects).content().hasLineCount(2).contains(",n,NaN,", ",id = 2");
        }
        Databases.run("jdbc:sqlite:" + target, "UPDATE seen SET n = 7 WHERE id = 3");
        Ferry differs =
                Ferry.run("reconcile", url, target, "--depth", "rows", "--rejects", rejects, "--rejects-allowed", "1");
        assertThat(differs.code()).isEqualTo(1);
        assertThat(differs.out()).contains("0 of 1 table equal.", "1 record of the source");
        assertThat(rejects).content().hasLineCount(2);
        Path nulls = folder.resolve("nulls.sqlite");
        assertThat(Ferry.run("load", url, nulls, "--out-of-range", "null").code())
                .isZero();
        assertThat(Ferry.run("reconcile", url, nulls, "--out-of-range", "null").code())
                .isZero();
        assertThat(Ferry.run("export", url, folder.resolve("seen.xlsx")).err()).contains("ferry convert writes files");
    }
}
