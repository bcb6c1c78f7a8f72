package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;

/** Definitions, scripts, ledgers and queries of strangers: nothing that they say is run in a database. */
class HostileDefinitionsTest {

    @TempDir
    Path folder;

    private int number;

    private String target(String system) throws Exception {
        return TestSystem.of(system).fresh(folder);
    }

    /** What would each of these do, if it reached the server inside of a statement of ours. */
    private String attack(String system) {
        return switch (system) {
            case "PostgreSQL" ->
                "1 = 1)); COPY (SELECT 1) TO PROGRAM 'touch " + folder.resolve("owned") + "'; DROP TABLE kept; --";
            case "H2" ->
                "1 = 1)); CREATE ALIAS OWNED AS $$ void f() throws Exception { java.nio.file.Files.createFile(java.nio.file.Path.of(\""
                        + folder.resolve("owned") + "\")); } $$; CALL OWNED(); DROP TABLE kept; --";
            default -> "1 = 1)); DROP TABLE kept; --";
        };
    }

    private static String json(String text) {
        return '"' + text.replace("\\", "\\\\").replace("\"", "\\\"") + '"';
    }

    private Path csv(String name, String columns, String table) throws Exception {
        Path file = Files.writeString(folder.resolve(name + ".csv"), "n,t\r\n1,moss\r\n");
        Files.writeString(
                folder.resolve(name + ".csv-metadata.json"),
                "{\"@context\":\"http://www.w3.org/ns/csvw\",\"url\":\"" + name
                        + ".csv\",\"tableSchema\":{\"columns\":[" + columns + "]" + table + "}}");
        return file;
    }

    private static final String BASE = "https://orderly-ferry.example/ns#";

    private static String expression(String key, String sql, String system) {
        return ",\"" + BASE + key + "\":{\"" + BASE + "expression\":" + json(sql) + ",\"" + BASE + "system\":"
                + json(system) + "}";
    }

    @ParameterizedTest
    @CsvSource({
        "H2, check",
        "SQLite, check",
        "PostgreSQL, check",
        "MariaDB, check",
        "H2, default",
        "SQLite, default",
        "PostgreSQL, default",
        "MariaDB, default",
        "H2, literal",
        "SQLite, literal",
        "PostgreSQL, literal",
        "MariaDB, literal",
        "H2, iso",
        "SQLite, iso",
        "PostgreSQL, iso",
        "MariaDB, iso",
        "H2, generated",
        "SQLite, generated",
        "PostgreSQL, generated",
        "MariaDB, generated",
        "H2, type",
        "SQLite, type",
        "PostgreSQL, type",
        "MariaDB, type",
        "SQLite, collation",
        "PostgreSQL, collation",
        "MariaDB, collation",
        "H2, predicate",
        "SQLite, predicate",
        "PostgreSQL, predicate",
        "MariaDB, predicate",
        "H2, index",
        "SQLite, index",
        "PostgreSQL, index",
        "MariaDB, index",
        "H2, name",
        "SQLite, name",
        "PostgreSQL, name",
        "MariaDB, name",
        "H2, comment",
        "PostgreSQL, comment",
        "MariaDB, comment",
    })
    void nothingThatADescriptionSaysIsRun(String system, String where) throws Exception {
        String target = target(system);
        Databases.run(target, "CREATE TABLE kept (n INTEGER)");
        String sql = attack(system);
        String base = Annotations.BASE;
        String inColumn =
                switch (where) {
                    case "default" -> Annotations.expression("defaultExpression", sql, system);
                    case "iso" -> Annotations.expression("defaultExpression", sql, "ISO");
                    case "literal" -> ",\"" + base + "defaultValue\":" + json("1; " + sql);
                    case "generated" -> Annotations.expression("generatedAs", sql, system);
                    case "type" -> ",\"" + base + "sourceType\":" + json("INTEGER DEFAULT (" + sql);
                    case "collation" -> ",\"" + base + "collation\":" + json("\"C\" CHECK (" + sql);
                    case "comment" -> ",\"" + base + "comment\":" + json("\\'; " + sql + " ' ; " + sql);
                    default -> "";
                };
        String inTable =
                switch (where) {
                    case "check" -> Annotations.list("checks", "{" + Annotations.body(sql, system) + "}");
                    case "predicate" ->
                        Annotations.list(
                                "indexes",
                                "{\"" + base + "name\":\"i\",\"" + base + "columns\":[{\"" + base + "name\":\"n\"}]"
                                        + Annotations.expression("predicate", sql, system) + "}");
                    case "index" ->
                        Annotations.list(
                                "indexes",
                                "{\"" + base + "name\":\"i\",\"" + base + "columns\":[]"
                                        + Annotations.expression("own", "(n); " + sql, system) + "}");
                    default -> "";
                };
        String title = where.equals("name")
                ? "n\\\"`] " + json(sql).substring(1, json(sql).length() - 1)
                : "n";
        Path file = csv(
                "label",
                "{\"titles\":\"" + title + "\",\"datatype\":\"integer\"" + inColumn
                        + "},{\"titles\":\"t\",\"datatype\":\"string\"}",
                ",\"" + base + "system\":" + json(system) + inTable);
        if (where.equals("name")) {
            Files.writeString(file, "\"n\"\"`] " + sql.replace("\"", "\"\"") + "\",t\r\n1,moss\r\n");
        }
        Ferry load = Ferry.run("load", file, target);
        assertThat(folder.resolve("owned")).doesNotExist();
        assertThat(Databases.rows(target, "SELECT COUNT(*) FROM kept")).containsExactly("0");
        if (where.equals("name")) {
            // a name may be refused as one that the system can't hold
            assertThat(load.code()).as(load.err()).isIn(0, 2, 3);
            return;
        }
        assertThat(load.code()).as(load.err()).isZero();
        if (!where.equals("comment") && !where.equals("type")) {
            assertThat(load.out()).contains("DROP TABLE kept");
        }
        Ferry trusted = Ferry.run(
                "load",
                "--onto",
                "replace",
                "--trust-definitions",
                "--definitions",
                file + "-metadata.json",
                file,
                target);
        assertThat(folder.resolve("owned")).doesNotExist();
        assertThat(Databases.rows(target, "SELECT COUNT(*) FROM kept")).containsExactly("0");
        assertThat(trusted.code()).as(trusted.err()).isZero();
    }

    /** Annotations as a set has them. */
    private static final class Annotations {
        private static final String BASE = org.orderlyferry.matrix.HostileDefinitionsTest.BASE;

        static String body(String sql, String system) {
            return "\"" + BASE + "name\":\"c\",\"" + BASE + "expression\":" + json(sql) + ",\"" + BASE + "system\":"
                    + json(system);
        }

        static String expression(String key, String sql, String system) {
            return HostileDefinitionsTest.expression(key, sql, system);
        }

        static String list(String key, String item) {
            return ",\"" + BASE + key + "\":[" + item + "]";
        }
    }

    @Test
    void whatGoesBeyondTheClosedLanguageIsSentOnlyWhereDefinitionsAreTrusted() throws Exception {
        String target = target("PostgreSQL");
        Databases.run(
                target, "CREATE FUNCTION fine(n numeric) RETURNS boolean LANGUAGE sql IMMUTABLE AS 'SELECT n > 0'");
        Path file = csv(
                "label",
                "{\"titles\":\"n\",\"datatype\":\"integer\"},{\"titles\":\"t\",\"datatype\":\"string\"}",
                ",\"" + BASE + "system\":\"PostgreSQL\""
                        + Annotations.list("checks", "{" + Annotations.body("fine(n)", "PostgreSQL") + "}"));
        Ferry plain = Ferry.run("load", file, target);
        assertThat(plain.code()).isZero();
        assertThat(plain.out()).contains("label.csv-metadata.json, which lies beside it", "fine(n)");
        assertThat(Databases.rows(target, "SELECT COUNT(*) FROM pg_constraint WHERE contype = 'c' AND conrelid <> 0"))
                .containsExactly("0");
        assertThat(Ferry.run("load", "--onto", "replace", "--trust-definitions", file, target)
                        .err())
                .contains("merely lies beside");
        Ferry trusted = Ferry.run(
                "load",
                "--onto",
                "replace",
                "--trust-definitions",
                "--definitions",
                file + "-metadata.json",
                file,
                target);
        assertThat(trusted.out()).as(trusted.err()).contains("sent as it is");
        assertThat(Databases.rows(
                        target,
                        "SELECT pg_get_constraintdef(oid) FROM pg_constraint WHERE contype = 'c' AND conrelid <> 0"))
                .containsExactly("CHECK (fine(n))");
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aScriptsCreateTableRunsNothing(String system) throws Exception {
        String target = target(system);
        Databases.run(target, "CREATE TABLE kept (n INTEGER)");
        Path script = Files.writeString(
                folder.resolve("label.sql"),
                "CREATE TABLE 'label' ('n' INTEGER DEFAULT (SELECT 1), 't' VARCHAR(9) CHECK ('t' = (SELECT #x#)),"
                                .replace("'", quoted(system, "").substring(1))
                                .replace('#', '\'')
                        + " u EVIL_TEXT(1) COLLATE nowhere);\nCREATE INDEX i ON label (n) WHERE evil(n);\n"
                        + "INSERT INTO " + quoted(system, "label") + " VALUES (1, 'moss', 'fern');\n");
        Ferry load = Ferry.run("load", "--setting", "dialect=" + system, script, target);
        assertThat(load.code()).as(load.err()).isZero();
        assertThat(load.out()).contains("SELECT 'x'");
        assertThat(Databases.rows(target, "SELECT * FROM " + quoted(system, "label")))
                .containsExactly("1 moss fern");
    }

    @ParameterizedTest
    @ValueSource(strings = {"H2", "PostgreSQL", "MariaDB"})
    void aPlantedLedgerIsNotRun(String system) throws Exception {
        Path file = Files.writeString(folder.resolve("label.csv"), "n,t\r\n1,moss\r\n");
        for (String planted : List.of(
                "CREATE TABLE orderly_ferry_ledger (step_number INTEGER, way_back VARCHAR(90))|INSERT INTO"
                        + " orderly_ferry_ledger VALUES (1, 'DROP TABLE kept')",
                "CREATE TABLE orderly_ferry_ledger (step_number INTEGER, kind VARCHAR(40), facts VARCHAR(900))|INSERT INTO"
                        + " orderly_ferry_ledger VALUES (1, 'TableMade',"
                        + " '{\"table\":{\"schema\":\"\",\"name\":\"kept\"}}')",
                "CREATE TABLE orderly_ferry_ledger (step_number INTEGER, kind VARCHAR(40), facts VARCHAR(900))|INSERT INTO"
                        + " orderly_ferry_ledger VALUES (1, 'Renamed',"
                        + " '{\"from\":[{\"schema\":\"\",\"name\":\"gone\"}],\"to\":[{\"schema\":\"\",\"name\":\"kept\"}]}')",
                "CREATE TABLE orderly_ferry_ledger (step_number INTEGER, kind VARCHAR(40), facts VARCHAR(900))|INSERT INTO"
                        + " orderly_ferry_ledger VALUES (1, 'java.lang.Runtime', '{}')")) {
            String target = target(system);
            Databases.run(
                    target,
                    system.equals("H2") ? "CREATE TABLE \"kept\" (n INTEGER)" : "CREATE TABLE kept (n INTEGER)");
            Databases.run(
                    target,
                    planted.replace("orderly_ferry_ledger", quoted(system, "orderly_ferry_ledger"))
                            .split("\\|"));
            Ferry load = Ferry.run("load", file, target);
            assertThat(load.code()).as(load.out()).isIn(2, 3);
            assertThat(load.err()).contains("ledger");
            assertThat(Databases.rows(target, "SELECT COUNT(*) FROM " + quoted(system, "kept")))
                    .containsExactly("0");
            Ferry look = Ferry.run("look", target);
            assertThat(look.out() + look.err()).contains("ledger");
        }
    }

    private static String quoted(String system, String name) {
        return system.equals("MariaDB") ? "`" + name + "`" : '"' + name + '"';
    }

    @Test
    void aLedgerOfARoleWithFewerRightsIsNotBelieved() throws Exception {
        String target = target("PostgreSQL");
        Databases.run(
                target,
                "DROP ROLE IF EXISTS gardener",
                "CREATE ROLE gardener",
                "GRANT CREATE ON SCHEMA public TO gardener",
                "CREATE TABLE orderly_ferry_7 (n integer)",
                "CREATE TABLE orderly_ferry_ledger (step_number integer primary key, kind varchar(40), facts text)",
                "INSERT INTO orderly_ferry_ledger VALUES (1, 'TableMade',"
                        + " '{\"table\":{\"schema\":\"\",\"name\":\"orderly_ferry_7\"}}')",
                "ALTER TABLE orderly_ferry_ledger OWNER TO gardener");
        // the superuser that tests run as may do what gardener may; the ledger's owner may not do what that user may
        Path file = Files.writeString(folder.resolve("label.csv"), "n,t\r\n1,moss\r\n");
        Ferry load = Ferry.run("load", file, target);
        assertThat(load.code()).isEqualTo(2);
        assertThat(load.err()).contains("it belongs to gardener");
        assertThat(Databases.rows(target, "SELECT COUNT(*) FROM orderly_ferry_7"))
                .containsExactly("0");
        assertThat(Ferry.run("look", target).out()).contains("orderly_ferry_7");
        Databases.run(target, "DROP OWNED BY gardener", "DROP ROLE gardener");
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aUsersTableOfSuchANameIsShownAndKeptAndNoneIsMade(String system) throws Exception {
        String target = target(system);
        Databases.run(target, "CREATE TABLE " + quoted(system, "orderly_ferry_1") + " (n INTEGER)");
        assertThat(Ferry.run("look", target).out()).contains("orderly_ferry_1");
        Path set = folder.resolve("set");
        assertThat(Ferry.run("export", target, set).out()).contains("orderly_ferry_1");
        Path file = Files.writeString(folder.resolve("label.csv"), "n,t\r\n1,moss\r\n");
        assertThat(Ferry.run("load", file, target).code()).isZero();
        assertThat(Ferry.run("load", "--onto", "merge", "--as", "label", file, target)
                        .code())
                .isIn(0, 2);
        assertThat(Databases.rows(target, "SELECT COUNT(*) FROM " + quoted(system, "orderly_ferry_1")))
                .containsExactly("0");
        Path ledger = Files.writeString(folder.resolve("orderly_ferry_ledger.csv"), "n,t\r\n1,moss\r\n");
        Ferry refused = Ferry.run("load", ledger, target);
        assertThat(refused.code()).isEqualTo(2);
        assertThat(refused.err()).contains("orderly_ferry_ledger is one that a load gives");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            PostgreSQL | SELECT 1; COMMIT; DELETE FROM kept
            PostgreSQL | WITH gone AS (DELETE FROM kept RETURNING n) SELECT n FROM gone
            PostgreSQL | SELECT n INTO copied FROM kept
            H2         | SELECT n FROM OLD TABLE (DELETE FROM kept)
            H2         | DELETE FROM kept
            MariaDB    | SELECT n INTO OUTFILE '/tmp/owned' FROM kept
            MariaDB    | SELECT n FROM kept; DELETE FROM kept
            SQLite     | SELECT n FROM kept; DELETE FROM kept
            SQLite     | DELETE FROM kept RETURNING n
            """)
    void aQueryOnlyReads(String system, String query) throws Exception {
        String source = target(system);
        Databases.run(source, "CREATE TABLE kept (n INTEGER)", "INSERT INTO kept VALUES (7)");
        String asking = system.equals("MariaDB") ? source + "&allowMultiQueries=true" : source;
        Ferry export = Ferry.run("export", asking, folder.resolve("set"), "--query", "q=" + query);
        assertThat(export.code()).as(export.out()).isIn(2, 3);
        assertThat(folder.resolve("set")).doesNotExist();
        assertThat(Databases.rows(source, "SELECT n FROM kept")).containsExactly("7");
        Ferry fine = Ferry.run(
                "export", asking, folder.resolve("set"), "--query", "q=SELECT n + 1 AS m, ';' AS s FROM kept;");
        assertThat(fine.code()).as(fine.err()).isZero();
    }

    @Test
    void aUrlMakesNoSourceWritable() throws Exception {
        String h2 = target("H2");
        Databases.run(h2, "CREATE TABLE kept (n INTEGER)");
        Ferry init = Ferry.run("look", h2 + ";INIT=DROP TABLE kept");
        assertThat(init.code()).isIn(2, 3);
        assertThat(init.err()).contains("SET SCHEMA");
        assertThat(Ferry.run("look", h2 + ";ACCESS_MODE_DATA=rw").code()).isZero();
        assertThat(Databases.rows(h2, "SELECT COUNT(*) FROM kept")).containsExactly("0");
        String postgres = target("PostgreSQL");
        Databases.run(
                postgres,
                "CREATE TABLE kept (n INTEGER)",
                "CREATE FUNCTION spoil() RETURNS integer LANGUAGE sql AS 'INSERT INTO kept VALUES (1) RETURNING n'");
        Ferry function = Ferry.run(
                "export", postgres + "&readOnlyMode=ignore", folder.resolve("set"), "--query", "q=SELECT spoil()");
        assertThat(function.code()).isIn(2, 3);
        assertThat(Databases.rows(postgres, "SELECT COUNT(*) FROM kept")).containsExactly("0");
    }
}
