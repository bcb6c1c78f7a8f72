package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;

/** One table of a database, with records that no other system could hold. */
class LookAtTableTest {

    @Test
    void theOthersAreShownAllTheSame() throws Exception {
        String url = Servers.newPostgres();
        Databases.run(
                url,
                "CREATE TABLE seen (id INTEGER PRIMARY KEY, day DATE)",
                "INSERT INTO seen SELECT i, 'infinity' FROM generate_series(1, 9) i",
                "INSERT INTO seen VALUES (17, '2031-04-09')");
        Ferry look = Ferry.run("look", url, "seen");
        assertThat(look.code()).as(look.err()).isZero();
        assertThat(look.out())
                .contains("seen  10 rows", "2031-04-09", "To be known (3)")
                .contains("record 1 (id = 1), column day: 'infinity' is no date that another system could hold");
        assertThat(Ferry.run("look", url, "seen", "--json").out()).contains("2031-04-09");
    }
}
