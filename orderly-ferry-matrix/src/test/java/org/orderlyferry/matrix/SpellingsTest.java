package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.testkit.servers.TestSystem;

/**
 * Values that a target's own equality takes for the same, and that aren't: a collation may not heed capitals, blanks at the end or signs
 * of zeros. What is merged has to become what comes, and what is gone has to be just that.
 */
class SpellingsTest extends CrossingCase {

    /** A table at the target whose texts, its key among them, are compared without heed of capitals. */
    private static void garden(String url) throws Exception {
        String text = "varchar(20) collate nocase";
        if (url.startsWith("jdbc:postgresql:")) {
            run(url, "create collation carefree (provider = icu, locale = 'und-u-ks-level2', deterministic = false)");
            text = "varchar(20) collate carefree";
        } else if (url.startsWith("jdbc:mariadb:")) {
            text = "varchar(20) character set latin1 collate latin1_general_ci";
        } else if (url.startsWith("jdbc:h2:")) {
            text = "varchar_ignorecase(20)";
        }
        String ratio = url.startsWith("jdbc:mariadb:") ? "double" : "double precision";
        String create = "create table \"bed\" (\"id\" " + text + " primary key, \"name\" " + text + ", \"ratio\" "
                + ratio + ")";
        run(url, url.startsWith("jdbc:mariadb:") ? create.replace('"', '`') : create);
    }

    private String source() throws Exception {
        String url = TestSystem.POSTGRESQL.fresh(folder);
        run(
                url,
                "create table \"bed\" (\"id\" varchar(20) primary key, \"name\" varchar(20), \"ratio\" double precision)",
                "insert into \"bed\" values ('a1', 'Weiße Heide', 1.5), ('b1', 'moss', 0), ('c1', 'fern', 2.5), ('é1', 'fir', 3.5)");
        return url;
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void whatIsMergedBecomesWhatComes(String system) throws Exception {
        String source = source();
        String url = TestSystem.of(system).fresh(folder);
        garden(url);
        must(0, "load", source, url, "--onto", "merge");
        run(
                source,
                "update \"bed\" set \"id\" = 'A1', \"name\" = 'weiße heide' where \"id\" = 'a1'",
                "update \"bed\" set \"name\" = 'FERN' where \"id\" = 'c1'",
                // two of them keep no sign of a zero
                system.equals("SQLite") || system.equals("H2")
                        ? "update \"bed\" set \"name\" = 'moss ' where \"id\" = 'b1'"
                        : "update \"bed\" set \"ratio\" = '-0' where \"id\" = 'b1'");
        for (String changed : new String[] {"3 +1 ", "0 +4 "}) {
            assertThat(must(0, "load", source, url, "--onto", "merge").out())
                    .containsPattern("bed +4 +4 +0 +" + changed);
            must(0, "reconcile", source, url, "bed", "--depth", "rows");
        }
    }

    /** The key that is gone and the one that is new are one to the target. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aKeyThatIsSpeltOtherwiseIsNotTakenOut(String system) throws Exception {
        String source = TestSystem.SQLITE.fresh(folder);
        String url = TestSystem.of(system).fresh(folder);
        garden(url);
        run(
                source,
                "create table bed (id varchar(20) primary key, name varchar(20), ratio double)",
                "insert into bed values ('a1', 'moss', 1.5), ('b1', 'fern', 2.5), ('é1', 'fir', 3.5)");
        Path file = Files.createTempDirectory(folder, "spelt-").resolve("crossing.yaml");
        must(0, "draft", source, url, "--file", file);
        edit(
                file,
                "onto: refuse",
                "onto: merge",
                "follow-deletes: false",
                "follow-deletes: true",
                "source-moment: one",
                "source-moment: still");
        must(0, "run", file);
        run(source, "update bed set id = 'A1' where id = 'a1'", "delete from bed where id = 'é1'");
        assertThat(must(0, "run", file, "--catch-up").out())
                .contains("source and target by digests: equal")
                .containsPattern("bed +1 +0 +1 +2");
        must(0, "reconcile", source, url, "bed", "--depth", "rows");
    }

    /** An interval of a day is one of 24 hours to PostgreSQL, and two numbers of other scales are the same. */
    @Test
    void whatPostgresqlTakesForTheSameIsWrittenAsItComes() throws Exception {
        String source = TestSystem.POSTGRESQL.fresh(folder);
        String url = TestSystem.POSTGRESQL.fresh(folder);
        for (String at : new String[] {source, url}) {
            run(at, "create table stay (id int primary key, span interval, cost numeric, dry real)");
        }
        run(url, "insert into stay values (1, '1 day', 1.5, 0.0), (2, '1 month', 2, 2)");
        run(source, "insert into stay values (1, '24:00:00', 1.50, '-0'), (2, '30 days', 2, 2)");
        must(0, "load", source, url, "--onto", "merge");
        must(0, "reconcile", source, url, "--depth", "rows");
    }
}
