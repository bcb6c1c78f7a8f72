package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.sql.SQLException;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Merged;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** What hangs on a table in its system, and what becomes of it when the table is replaced or added to. */
class ReplacedTableTest {

    @TempDir
    private static Path folder;

    private static Path source;

    @BeforeAll
    static void makeTheSource() throws Exception {
        source = folder.resolve("source.sqlite");
        Databases.run(
                "jdbc:sqlite:" + source,
                "CREATE TABLE label (code VARCHAR(20) NOT NULL PRIMARY KEY, text VARCHAR(40))",
                "INSERT INTO label VALUES ('a', 'alder'), ('ß', 'birch'), ('x y', NULL)");
    }

    private static TransferResult load(String url, LoadMode mode) {
        try (Place from = Places.open(source.toString());
                TargetPlace target = Places.openTarget(url)) {
            return Load.from(from).mode(mode).into(target);
        }
    }

    private static String postgres(String... statements) throws SQLException {
        String url = Servers.newPostgres();
        Databases.run(
                url,
                "CREATE TABLE label (code VARCHAR(20) PRIMARY KEY, text VARCHAR(40), old INTEGER)",
                "INSERT INTO label VALUES ('a', 'kept', 1)");
        Databases.run(url, statements);
        return url;
    }

    @Test
    void whatHangsOnAPostgresTableHangsOnTheNewOne() throws Exception {
        String url = postgres(
                "CREATE FUNCTION loud() RETURNS trigger LANGUAGE plpgsql AS 'BEGIN NEW.text = upper(NEW.text); RETURN"
                        + " NEW; END'",
                "CREATE TRIGGER asleep BEFORE INSERT ON label FOR EACH ROW EXECUTE FUNCTION loud()",
                "CREATE TRIGGER wide_awake AFTER DELETE ON label FOR EACH ROW EXECUTE FUNCTION loud()",
                "ALTER TABLE label DISABLE TRIGGER asleep",
                "ALTER TABLE label ENABLE ALWAYS TRIGGER wide_awake",
                "GRANT SELECT (code), UPDATE (old) ON label TO PUBLIC",
                "GRANT DELETE ON label TO PUBLIC",
                "CREATE STATISTICS label_both ON code, text FROM label",
                "CREATE VIEW labels WITH (security_barrier = true) AS SELECT code FROM label",
                "CREATE VIEW labels_of_labels AS SELECT code FROM labels");
        load(url, LoadMode.REPLACE);
        assertThat(Databases.rows(url, "SELECT tgname, tgenabled FROM pg_trigger WHERE NOT tgisinternal ORDER BY 1"))
                .containsExactly("asleep D", "wide_awake A");
        assertThat(Databases.rows(
                        url,
                        "SELECT attname, attacl FROM pg_attribute WHERE attacl IS NOT NULL AND attrelid"
                                + " = 'label'::regclass"))
                .hasSize(1)
                .first()
                .asString()
                .startsWith("code {=r/");
        assertThat(Databases.rows(url, "SELECT has_table_privilege('public', 'label', 'DELETE')"))
                .containsExactly("t");
        assertThat(Databases.rows(url, "SELECT stxname FROM pg_statistic_ext")).containsExactly("label_both");
        assertThat(Databases.rows(url, "SELECT reloptions FROM pg_class WHERE relname = 'labels'"))
                .containsExactly("{security_barrier=true}");
        assertThat(Databases.rows(url, "SELECT COUNT(*) FROM labels_of_labels")).containsExactly("3");
        Databases.run(url, "INSERT INTO label VALUES ('quiet', 'quiet')");
        assertThat(Databases.rows(url, "SELECT text FROM label WHERE code = 'quiet'"))
                .as("the trigger sleeps on")
                .containsExactly("quiet");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "CREATE MATERIALIZED VIEW counted AS SELECT COUNT(*) FROM label | the materialized view counted",
                "CREATE POLICY mine ON label USING (true) | it has the policy mine",
                "CREATE RULE nothing AS ON DELETE TO label DO INSTEAD NOTHING | it has the rule nothing",
                "CREATE TABLE heir () INHERITS (label) | others inherit from it",
                "CREATE PUBLICATION news FOR TABLE label | it is in the publication news"
            })
    void whatCannotBeGivenToTheNewTableKeepsTheOldOne(String statement, String reason) throws Exception {
        String url = postgres(statement);
        assertThatThrownBy(() -> load(url, LoadMode.REPLACE))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("nothing was changed")
                .hasMessageContaining("table label can't be replaced: " + reason);
        assertThat(Databases.rows(url, "SELECT text FROM ONLY label")).containsExactly("kept");
    }

    @Test
    void aTriggerOfMariaMeansWhatItMeant() throws Exception {
        String url = Servers.newMaria();
        Databases.run(
                url,
                "CREATE TABLE label (code VARCHAR(20) PRIMARY KEY, text VARCHAR(40))",
                "SET SESSION sql_mode = 'ANSI_QUOTES'",
                "CREATE TRIGGER tidy BEFORE INSERT ON label FOR EACH ROW SET NEW.\"text\" = REPLACE(NEW.\"text\","
                        + " '\\'', 'it''s')",
                "CREATE TRIGGER tidier BEFORE INSERT ON label FOR EACH ROW FOLLOWS tidy SET NEW.\"text\" ="
                        + " CONCAT(NEW.\"text\", '\\n')");
        String before = "SELECT TRIGGER_NAME, SQL_MODE, ACTION_ORDER, ACTION_STATEMENT FROM information_schema.TRIGGERS"
                + " WHERE TRIGGER_SCHEMA = DATABASE() ORDER BY ACTION_ORDER";
        List<String> triggers = Databases.rows(url, before);
        load(url, LoadMode.REPLACE);
        assertThat(Databases.rows(url, before)).isEqualTo(triggers);
        Databases.run(url, "INSERT INTO label VALUES ('new', '''')");
        assertThat(Databases.rows(url, "SELECT text FROM label WHERE code = 'new'"))
                .containsExactly("it's\n");
        assertThat(Databases.rows(url, "SELECT text FROM label WHERE code = 'a'"))
                .as("records of a load that replaces are not the trigger's")
                .containsExactly("alder");
    }

    @ParameterizedTest
    @ValueSource(strings = {"PostgreSQL", "H2", "MariaDB"})
    void aColumnThatOthersReferToCantGoAway(String system) throws Exception {
        String url = TestSystem.of(system).fresh(folder);
        Databases.run(
                url,
                "CREATE TABLE " + quoted(system, "label") + " (" + quoted(system, "number") + " INTEGER PRIMARY KEY)",
                "INSERT INTO " + quoted(system, "label") + " VALUES (7)",
                "CREATE TABLE sheet (label INTEGER, FOREIGN KEY (label) REFERENCES " + quoted(system, "label") + " ("
                        + quoted(system, "number") + "))");
        assertThatThrownBy(() -> load(url, LoadMode.REPLACE))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("refers to its column number")
                .hasMessageContaining("would become nothing at all");
        assertThat(Databases.rows(url, "SELECT * FROM " + quoted(system, "label")))
                .containsExactly("7");
    }

    private static String quoted(String system, String name) {
        return TestSystem.of(system).quote(name);
    }

    @Test
    void aColumnThatOthersReferToKeepsItsTypeInMaria() throws Exception {
        String url = Servers.newMaria();
        Databases.run(
                url,
                "CREATE TABLE label (code INTEGER PRIMARY KEY, text VARCHAR(40))",
                "INSERT INTO label VALUES (1, 'kept')",
                "CREATE TABLE sheet (label INTEGER, FOREIGN KEY (label) REFERENCES label (code))");
        assertThatThrownBy(() -> load(url, LoadMode.REPLACE))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining(
                        "sheet refers to its column code, which is int(11) and would become" + " VARCHAR(20)");
        assertThat(Databases.rows(url, "SELECT text FROM label")).containsExactly("kept");
    }

    @Test
    void aTriggerOfH2KeepsTheOldTable() throws Exception {
        String url = "jdbc:h2:" + folder.resolve("triggered") + ";USER=sa";
        Databases.run(
                url,
                "CREATE TABLE \"label\" (\"code\" VARCHAR(20) PRIMARY KEY, \"text\" VARCHAR(40))",
                "INSERT INTO \"label\" VALUES ('a', 'kept')",
                "CREATE TRIGGER watch BEFORE INSERT ON \"label\" FOR EACH ROW CALL '" + Watch.class.getName() + "'");
        assertThatThrownBy(() -> load(url, LoadMode.REPLACE))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("table label can't be replaced: it has the trigger WATCH");
        assertThat(Databases.rows(url, "SELECT \"text\" FROM \"label\"")).containsExactly("kept");
    }

    /** A trigger of H2's that does nothing. */
    public static final class Watch implements org.h2.api.Trigger {

        @Override
        public void fire(java.sql.Connection connection, Object[] before, Object[] after) {
            // only its being there counts
        }
    }

    /** Whether two spellings are one key is for the target's collation to say; it is then spelt as it comes. */
    @ParameterizedTest
    @CsvSource({"utf8mb4_general_ci, 1 3", "utf8mb4_unicode_ci, 1 3", "latin1_swedish_ci, 1 3", "utf8mb4_bin, 2 4"})
    void recordsAreMergedUnderTheTargetsCollation(String collation, String insertedAndAll) throws Exception {
        String url = Servers.newMaria();
        Databases.run(
                url,
                "CREATE TABLE label (code VARCHAR(20) PRIMARY KEY, text VARCHAR(40)) COLLATE " + collation,
                "INSERT INTO label VALUES ('A', 'Alder'), ('x y', 'kept')");
        TransferResult result = load(url, LoadMode.MERGE);
        Merged merged = result.tables().get(0).merged().orElseThrow();
        List<String> rows = Databases.rows(url, "SELECT code, text FROM label");
        assertThat(merged.inserted() + " " + rows.size()).isEqualTo(insertedAndAll);
        assertThat(merged.inserted() + merged.updated()).isEqualTo(3);
        assertThat(rows).contains("a alder", "ß birch", "x y null");
    }

    @Test
    void recordsThatTheTargetsCollationTakesForOneAreRefused() throws Exception {
        String url = Servers.newMaria();
        Databases.run(
                url,
                "CREATE TABLE label (code VARCHAR(20) PRIMARY KEY, text VARCHAR(40)) COLLATE utf8mb4_general_ci",
                "INSERT INTO label VALUES ('A', 'Alder')");
        Path twice = folder.resolve("twice.sqlite");
        Databases.run(
                "jdbc:sqlite:" + twice,
                "CREATE TABLE label (code VARCHAR(20) NOT NULL PRIMARY KEY, text VARCHAR(40))",
                "INSERT INTO label VALUES ('ash', 'one'), ('ASH', 'other')");
        for (LoadMode mode : List.of(LoadMode.MERGE, LoadMode.APPEND)) {
            assertThatThrownBy(() -> {
                        try (Place from = Places.open(twice.toString());
                                TargetPlace target = Places.openTarget(url)) {
                            Load.from(from).mode(mode).into(target);
                        }
                    })
                    .as("%s", mode)
                    .isInstanceOf(FerryException.class)
                    .hasMessageContaining("label")
                    .hasMessageMatching("(?is).*code.*ash.*");
            assertThat(Databases.rows(url, "SELECT code, text FROM label")).containsExactly("A Alder");
        }
    }
}
