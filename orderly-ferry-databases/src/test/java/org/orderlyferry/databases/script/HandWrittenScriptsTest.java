package org.orderlyferry.databases.script;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assumptions.assumeThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Enumeration;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** Scripts that people have written, and no tool: without its marks, and in the words that a system takes besides its own. */
class HandWrittenScriptsTest {

    private static final String MARIA =
            "CREATE TABLE bed (id INT NOT NULL AUTO_INCREMENT PRIMARY KEY, %s) ENGINE=MyISAM;\n";

    @TempDir
    private Path folder;

    private Place open(String sql) throws Exception {
        return Places.open(Files.writeString(folder.resolve("bed.sql"), sql).toString());
    }

    private TableDefinition bed(String sql) throws Exception {
        try (Place place = open(sql)) {
            return place.define(place.tables().get(0));
        }
    }

    private List<List<String>> rows(String sql) throws Exception {
        List<List<String>> rows = new ArrayList<>();
        RecordBatch batch = new RecordBatch();
        try (Place place = open(sql);
                RecordReader reader = place.read(Slice.whole(place.define(TableName.of("bed"))))) {
            while (reader.read(batch)) {
                for (int row = 0; row < batch.rows(); row++) {
                    int at = row;
                    rows.add(IntStream.range(0, batch.columns())
                            .mapToObj(c -> batch.text(at, c))
                            .toList());
                }
            }
        }
        return rows;
    }

    /** What no other system would take tells whose it is. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "CREATE TABLE bed (id INT UNSIGNED NOT NULL AUTO_INCREMENT, PRIMARY KEY (id));|MariaDB",
                "create table `bed` (`id` int);|MariaDB",
                "-- our serial, bytea and PRAGMA¶CREATE TABLE bed (id int, x text) engine = MyISAM;|MariaDB",
                "CREATE TABLE bed (id SERIAL PRIMARY KEY);|PostgreSQL",
                "CREATE TABLE bed (id int, x bytea);INSERT INTO bed VALUES (1, 'AUTO_INCREMENT `x` ENGINE=');|PostgreSQL",
                "CREATE TABLE bed (id int, x text DEFAULT 'a'::text);|PostgreSQL",
                "CREATE TABLE bed (id INTEGER PRIMARY KEY AUTOINCREMENT);|SQLite",
                "CREATE TABLE bed (id int, name TEXT PRIMARY KEY) WITHOUT ROWID;|SQLite",
                "CREATE TABLE bed (id uniqueidentifier, name nvarchar(9));|SQL Server",
                "CREATE TABLE bed (id NUMBER(9), seen DATE);INSERT INTO bed VALUES (1, TO_DATE('2031-04-09', 'YYYY-MM-DD'));|Oracle"
            })
    void itsWordsTellWhoseItIs(String sql, String system) throws Exception {
        assertThat(bed(sql.replace("¶", "\n")).system()).isEqualTo(system);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "CREATE TABLE bed (id INTEGER, name VARCHAR(9));\nINSERT INTO bed VALUES (1, 'AUTO_INCREMENT');",
                // as much of one as of another
                "CREATE TABLE bed (id INTEGER PRIMARY KEY AUTOINCREMENT, at SERIAL);"
            })
    void whereTheyDoNotItIsAsked(String sql) {
        assertThatThrownBy(() -> bed(sql))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("whose SQL")
                .hasMessageContaining("the setting dialect says it: h2, mariadb");
    }

    /** Somebody may have made it so that looking at it would never end, or end in the middle of nothing. */
    @ParameterizedTest
    @ValueSource(strings = {"/*", "''", "'", "COPY ", "\"\"", "[a", "`a", "CREATE ", ":: ", "NUMBER ", "--", "#"})
    void whateverItIsFullOf(String piece) throws Exception {
        String made = "CREATE TABLE bed (id SERIAL PRIMARY KEY);\n";
        assertThat(bed(made + "-- " + piece.repeat(40_000) + "\n").system()).isEqualTo("PostgreSQL");
        assertThatThrownBy(() -> bed("CREATE TABLE bed (id INT);\n" + piece.repeat(40_000)))
                .isInstanceOfAny(UsageException.class, MalformedFileException.class);
        assertThatThrownBy(() -> bed("CREATE TABLE \"" + piece.repeat(40_000) + ";\n" + MARIA.formatted("x int")))
                .isInstanceOfAny(UsageException.class, MalformedFileException.class);
    }

    @Test
    void stringsOfMariaStandInEitherQuotes() throws Exception {
        String made = MARIA.formatted(
                "kind ENUM(\"moss\", \"it's \"\"fern\"\"\") NOT NULL DEFAULT \"moss\" COMMENT \"which `kind`\","
                        + " name VARCHAR(20) DEFAULT \"o\\\"'clock\", KEY `by \"name\"` (name)");
        TableDefinition bed = bed(made);
        ColumnDefinition kind = bed.column("kind").orElseThrow();
        assertThat(kind.enumeration()).contains(new Enumeration("", List.of("moss", "it's \"fern\"")));
        assertThat(kind.defaultValue()).contains(new ColumnDefault.Literal("moss"));
        assertThat(kind.comment()).isEqualTo("which `kind`");
        assertThat(bed.column("name").orElseThrow().defaultValue()).contains(new ColumnDefault.Literal("o\"'clock"));
        assertThat(bed.indexes()).extracting(i -> i.name()).containsExactly("by \"name\"");
        assertThat(rows(made + "INSERT INTO bed (id) VALUES (7);")).containsExactly(List.of("7", "moss", "o\"'clock"));
    }

    /** Where a session, or whoever wrote the statement, has names in them. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "SET sql_mode = 'ANSI_QUOTES';\nCREATE TABLE bed (\"id\" int, \"the kind\" int) ENGINE=InnoDB;",
                "/*!40101 SET @OLD=@@SQL_MODE, SQL_MODE='ANSI,NO_ZERO_DATE' */;\nCREATE TABLE bed (\"id\" int, \"the kind\" int) ENGINE=InnoDB;",
                "CREATE TABLE IF NOT EXISTS \"bed\" (\"id\" int, \"the kind\" int) ENGINE=InnoDB;"
            })
    void namesMayStandThereToo(String sql) throws Exception {
        TableDefinition bed = bed(sql + "\nINSERT INTO \"bed\" (\"the kind\", \"id\") VALUES (2, 1);");
        assertThat(bed.columns()).extracting(ColumnDefinition::name).containsExactly("id", "the kind");
        assertThat(rows(sql + "\nINSERT INTO \"bed\" (\"the kind\", \"id\") VALUES (2, 1);"))
                .containsExactly(List.of("1", "2"));
    }

    @Test
    void aModeInWhichValuesWouldBeOthersIsRefused() {
        assertThatThrownBy(() -> bed("SET SESSION sql_mode = 'NO_BACKSLASH_ESCAPES';\n" + MARIA.formatted("x int")))
                .isInstanceOf(MalformedFileException.class)
                .hasMessageContaining("line 1")
                .hasMessageContaining("NO_BACKSLASH_ESCAPES");
    }

    @Test
    void whatIsNotGivenHasItsDefaultInWhateverWords() throws Exception {
        String made = MARIA.formatted("yes BOOL NOT NULL DEFAULT TRUE, no TINYINT(1) NOT NULL DEFAULT false,"
                + " bit BIT(1) NOT NULL DEFAULT b'1', count INT DEFAULT b'101', raw VARBINARY(4) DEFAULT 'ab'");
        assertThat(rows(made + "INSERT INTO bed (id) VALUES (1);"))
                .containsExactly(Arrays.asList("1", "true", "false", "true", "5", "ab"));
    }

    /** It isn't null, which would say something else of the record; and nothing that only a server works out. */
    @Test
    void aDefaultThatIsNoValueIsRefusedAsOne() throws Exception {
        String sql = MARIA.formatted("seen DATETIME NOT NULL DEFAULT '0000-00-00 00:00:00'")
                + "INSERT INTO bed (id) VALUES (1);";
        assertThatThrownBy(() -> rows(sql))
                .isInstanceOf(BadValueException.class)
                .hasMessageContaining("column seen: '0000-00-00");
        try (Place place = open(sql)) {
            assertThat(place.leftBehind()).extracting(LeftBehind::toString).noneMatch(l -> l.contains("without seen"));
        }
    }

    /** Its servers have had two names for the set of three bytes, and its scripts keep the older one. */
    @Test
    void collationsArriveByEitherName() throws Exception {
        assumeThat(TestSystem.names()).contains("MariaDB");
        String sql =
                "CREATE TABLE bed (id INT PRIMARY KEY, a VARCHAR(9) COLLATE utf8_bin, b TEXT CHARACTER SET utf8 COLLATE UTF8_UNICODE_CI,"
                        + " c VARCHAR(9)) ENGINE=InnoDB DEFAULT CHARSET=utf8 COLLATE=utf8_general_ci;\nINSERT INTO bed VALUES (1, 'a', 'b', 'c');";
        String byClient = TestSystem.MARIADB.fresh(folder);
        Databases.run(byClient, sql.split(";\n")[0], sql.split(";\n")[1].replace(";", ""));
        String byUs = TestSystem.MARIADB.fresh(folder);
        try (Place script = open(sql);
                TargetPlace target = Places.openTarget(byUs);
                Place source = Places.open(byClient)) {
            TransferResult loaded = Load.from(script).into(target);
            assertThat(loaded.leftBehind()).isEmpty();
            assertThat(source.define(TableName.of("bed"))).isEqualTo(target.define(TableName.of("bed")));
            assertThat(Reconcile.between(source, target).compare().isEqual()).isTrue();
        }
    }

    /** A key of what has no length has to say how much of it counts, which no definition does. */
    @Test
    void aPrimaryKeyOfBeginningsIsOneAgain() throws Exception {
        assumeThat(TestSystem.names()).contains("MariaDB");
        for (String key : List.of("host(100), name(191), id", "name", "tiny, name, raw", "raw(20)")) {
            String sql =
                    "CREATE TABLE bed (id BIGINT NOT NULL, host VARCHAR(191) NOT NULL, name TEXT NOT NULL, tiny TINYTEXT NOT NULL,"
                            + " raw MEDIUMBLOB NOT NULL, PRIMARY KEY ("
                            + key.replaceAll("\\bname\\b(?!\\()", "name(50)")
                                    .replaceAll("\\btiny\\b", "tiny(20)")
                                    .replaceAll("\\braw\\b(?!\\()", "raw(30)")
                            + ")) ENGINE=InnoDB";
            String insert =
                    "INSERT INTO bed VALUES (1, 'h', REPEAT('moss ', 400), 't', 'r'), (2, 'i', 'fern', 'u', 's')";
            String from = TestSystem.MARIADB.fresh(folder);
            Databases.run(from, sql, insert);
            String to = TestSystem.MARIADB.fresh(folder);
            try (Place source = Places.open(from);
                    TargetPlace target = Places.openTarget(to)) {
                TransferResult loaded = Load.from(source).into(target);
                assertThat(loaded.findings())
                        .extracting(Object::toString)
                        .anyMatch(f -> f.contains("the primary key holds the first"));
                assertThat(target.define(TableName.of("bed")).primaryKey())
                        .isEqualTo(source.define(TableName.of("bed")).primaryKey());
                assertThat(Reconcile.between(source, target).compare().isEqual())
                        .isTrue();
            }
        }
    }

    /** The server itself says what a script means. */
    @Test
    void whatPostgresMakesOfItArrives() throws Exception {
        assumeThat(TestSystem.names()).contains("PostgreSQL");
        List<String> statements = List.of(
                "CREATE TABLE kind (kind_id serial PRIMARY KEY, parent int REFERENCES kind, words jsonb NOT NULL DEFAULT '{}')",
                "CREATE TABLE bed (id int PRIMARY KEY, kind int REFERENCES kind ON DELETE CASCADE INITIALLY DEFERRED,"
                        + " \"next\" int, seen timestamptz DEFAULT 'infinity', since date DEFAULT 'epoch', wet boolean DEFAULT 'yes',"
                        + " depths int[] DEFAULT '{1,2}', raw bytea DEFAULT '\\x00ff', code char(3) DEFAULT 'a', turn interval DEFAULT '1 day',"
                        + " share float DEFAULT 'NaN', FOREIGN KEY (\"next\") REFERENCES bed DEFERRABLE INITIALLY IMMEDIATE)",
                "INSERT INTO kind (parent) VALUES (NULL), (1)",
                "INSERT INTO bed (id, kind, \"next\", seen, since, share) VALUES (1, 2, 1, NULL, NULL, 0.5)",
                "INSERT INTO bed (id, seen, since, share, turn) VALUES (2, NULL, NULL, 1, '1 year 2 mons -3 days +04:05:06.5'),"
                        + " (3, NULL, NULL, 1, '-00:00:01.5'), (4, NULL, NULL, 1, '2 weeks 90 minutes'), (5, NULL, NULL, 1, '@ 1 mon 1 sec ago'),"
                        + " (6, NULL, NULL, 1, '-1 year -13 mons 25:59'), (7, NULL, NULL, 1, '00:00:00'), (8, NULL, NULL, 1, 'P1DT2H')");
        String byClient = TestSystem.POSTGRESQL.fresh(folder);
        Databases.run(byClient, statements.toArray(String[]::new));
        String byUs = TestSystem.POSTGRESQL.fresh(folder);
        try (Place script = open(String.join(";\n", statements) + ";\n");
                TargetPlace target = Places.openTarget(byUs);
                Place source = Places.open(byClient)) {
            assertThat(Load.from(script).into(target).leftBehind()).isEmpty();
            for (String table : List.of("kind", "bed")) {
                TableDefinition made = target.define(TableName.of(table));
                TableDefinition meant = source.define(TableName.of(table));
                assertThat(made.columns())
                        .extracting(c -> c.name() + c.sourceType() + c.defaultValue())
                        .isEqualTo(meant.columns().stream()
                                .map(c -> c.name() + c.sourceType() + c.defaultValue())
                                .toList());
                assertThat(made.foreignKeys())
                        .extracting(k -> k.columns() + " " + k.targetColumns() + k.onDelete() + k.deferrability())
                        .containsExactlyInAnyOrderElementsOf(meant.foreignKeys().stream()
                                .map(k -> k.columns() + " " + k.targetColumns() + k.onDelete() + k.deferrability())
                                .toList());
            }
            assertThat(Reconcile.between(source, target).compare().isEqual()).isTrue();
        }
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = ';',
            quoteCharacter = '~',
            value = {
                "WITH DELIMITER '|'",
                "DELIMITERS '|' WITH NULL AS '\\N'",
                "WITH (DELIMITER '|')",
                "(FORMAT text, DELIMITER E'\\174', NULL '\\N')",
                "with delimiter as '|' null as '\\N'"
            })
    void linesOfCopyAreReadAsItSays(String options) throws Exception {
        assertThat(rows(
                        "CREATE TABLE bed (id serial PRIMARY KEY, name text, note text);\nCOPY bed (id, name, note) FROM stdin "
                                + options + ";\n1|moss|a\\|b\\tc\td\n2||\\N\n\\.\n"))
                .containsExactly(List.of("1", "moss", "a|b\tc\td"), Arrays.asList("2", "", null));
    }

    @Test
    void whatStandsForNullIsWhatItSays() throws Exception {
        assertThat(
                        rows(
                                "CREATE TABLE bed (id serial PRIMARY KEY, name text);\nCOPY bed FROM stdin NULL '';\n1\t\n2\t\\N\n\\.\n"))
                .containsExactly(Arrays.asList("1", null), List.of("2", "N"));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "CSV",
                "WITH (FORMAT csv)",
                "WITH BINARY",
                "DELIMITER '||'",
                "DELIMITER",
                "(HEADER true)",
                "WITH OIDS",
                "NULL x"
            })
    void linesThatAreWrittenOtherwiseAreRefused(String options) {
        assertThatThrownBy(() -> rows(
                        "CREATE TABLE bed (id serial PRIMARY KEY);\nCOPY bed FROM stdin " + options + ";\n1\n\\.\n"))
                .isInstanceOf(MalformedFileException.class)
                .hasMessageContaining("only PostgreSQL's own text");
        assertThatThrownBy(() ->
                        rows("CREATE TABLE bed (id serial PRIMARY KEY);\nCOPY bed FROM stdin NULL E'\\u12';\n1\n\\.\n"))
                .isInstanceOf(MalformedFileException.class)
                .hasMessageContaining("cut short");
    }

    /** The server says what stands behind a backslash; it is another thing in each system. */
    @ParameterizedTest
    @CsvSource(
            delimiter = ';',
            quoteCharacter = '~',
            value = {
                "PostgreSQL;serial;E'\\x41\\x4aB\\101\\7z \\u00e9 \\U0001F33F \\uD83C\\uDF3F \\xC3\\xA9 \\Z\\%\\_\\n\\\\ \\' it''s'",
                "MariaDB;int auto_increment;'a\\%b\\_c\\xd\\u00e9\\101 \\Z\\n\\\\ \\' \\\" it''s'"
            })
    void backslashesMeanWhatTheServerSays(String system, String counter, String literal) throws Exception {
        assumeThat(TestSystem.names()).contains(system);
        List<String> statements = List.of(
                "CREATE TABLE bed (id " + counter + " PRIMARY KEY, name varchar(99) DEFAULT "
                        + literal.replace("\\xC3\\xA9", "") + ", note varchar(99))",
                "INSERT INTO bed (note) VALUES (" + literal + ")");
        String byClient = TestSystem.of(system).fresh(folder);
        Databases.run(byClient, statements.toArray(String[]::new));
        String byUs = TestSystem.of(system).fresh(folder);
        try (Place script = open(String.join(";\n", statements) + ";\n");
                TargetPlace target = Places.openTarget(byUs);
                Place source = Places.open(byClient)) {
            assertThat(Load.from(script).into(target).leftBehind()).isEmpty();
            assertThat(target.define(TableName.of("bed")).columns().get(1).defaultValue())
                    .isEqualTo(
                            source.define(TableName.of("bed")).columns().get(1).defaultValue());
            assertThat(Reconcile.between(source, target).compare().isEqual()).isTrue();
        }
    }

    /** As in a routine's body, anything may stand between two dollars: what ends a value, a list, a statement. */
    @Test
    void whatStandsBetweenDollarsIsAText() throws Exception {
        assumeThat(TestSystem.names()).contains("PostgreSQL");
        List<String> statements = List.of(
                "CREATE TABLE bed (id int PRIMARY KEY, name text DEFAULT $$it's$$, note text DEFAULT $q$a;b$$c$q$,"
                        + " CONSTRAINT odd CHECK (name <> $$'); DROP TABLE bed; --$$), CONSTRAINT few CHECK (id > 0))",
                "COMMENT ON TABLE bed IS $é$it's a note; (really$é$",
                "INSERT INTO bed VALUES (1, $$it's$$, $a$x); $$ü🌿(,$a$), (2, $$$$, '$$'), (3, 'a$b$c', '$q$'), (4, $$1$5$$, NULL)",
                "INSERT INTO bed (id) VALUES (5)");
        String byClient = TestSystem.POSTGRESQL.fresh(folder);
        Databases.run(byClient, statements.toArray(String[]::new));
        String byUs = TestSystem.POSTGRESQL.fresh(folder);
        Path file = Files.writeString(folder.resolve("bed.sql"), String.join(";\n", statements) + ";\n");
        OpenOptions options = OpenOptions.builder()
                .files(FileSettings.NONE.with("dialect", "postgresql"))
                .build();
        try (Place script = Places.open(PlaceAddress.of(file.toString()), options);
                TargetPlace target = Places.openTarget(byUs);
                Place source = Places.open(byClient)) {
            assertThat(Load.from(script).into(target).leftBehind()).isEmpty();
            TableDefinition made = target.define(TableName.of("bed"));
            TableDefinition meant = source.define(TableName.of("bed"));
            assertThat(made.comment()).isEqualTo(meant.comment()).isNotEmpty();
            assertThat(made.checks()).isEqualTo(meant.checks()).hasSize(2);
            assertThat(made.columns())
                    .extracting(ColumnDefinition::defaultValue)
                    .isEqualTo(meant.columns().stream()
                            .map(ColumnDefinition::defaultValue)
                            .toList());
            assertThat(Reconcile.between(source, target).compare().isEqual()).isTrue();
        }
    }

    /** A part of a day, or of a month, is something that only the server reckons. */
    @ParameterizedTest
    @ValueSource(strings = {"1.5 days", "half a day", "1 day 2", "1 fortnight", "1:2:3:4", "day", ""})
    void anIntervalThatIsNotKnownIsNoOther(String text) {
        assertThat(WrittenInterval.duration(text)).isEmpty();
    }
}
