package org.orderlyferry.databases.script;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** Indexes, keys and collations as scripts have them: read as they are meant, or told. */
class RulesInScriptsTest {

    @TempDir
    private Path folder;

    private Place open(String dialect, String sql) throws Exception {
        Path script = Files.writeString(folder.resolve("bed.sql"), sql);
        return Places.open(
                PlaceAddress.of(script.toString()),
                OpenOptions.builder()
                        .files(FileSettings.NONE.with("dialect", dialect))
                        .build());
    }

    private TableDefinition bed(String dialect, String sql) throws Exception {
        try (Place place = open(dialect, sql)) {
            return place.define(TableName.of("bed"));
        }
    }

    /** Names of columns that look like what isn't one. */
    @ParameterizedTest
    @CsvSource({"sqlite, '\"deep(cm)\"'", "sqlite, '\"wet where dry\"'", "postgresql, '\"lower(name)\"'"})
    void namesInQuotesAreNames(String dialect, String column) throws Exception {
        TableDefinition bed = bed(
                dialect,
                "CREATE TABLE bed (id INTEGER PRIMARY KEY, " + column + " VARCHAR(9));\nCREATE INDEX ix ON bed ("
                        + column + " DESC, id);\n");
        assertThat(bed.indexes())
                .containsExactly(new IndexDefinition(
                        "ix",
                        false,
                        List.of(
                                new IndexDefinition.Part(column.replace("\"", ""), true),
                                new IndexDefinition.Part("id", false))));
    }

    /** What goes beyond columns, their beginnings and directions is kept as it stands, for the same system alone. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "sqlite|(deep + id)|(deep + id)",
                "sqlite|(name COLLATE NOCASE)|(name COLLATE NOCASE)",
                "sqlite|(lower(name))|(lower(name))",
                "sqlite|(name) WHERE deep > 3|(name) WHERE deep > 3",
                "postgresql|USING gin (name)|USING gin (name)",
                "postgresql|USING btree (name text_pattern_ops)|(name text_pattern_ops)",
                "postgresql|(name NULLS FIRST)|(name NULLS FIRST)",
                "postgresql|(name) NULLS NOT DISTINCT|(name) NULLS NOT DISTINCT",
                "postgresql|(name) INCLUDE (deep)|(name) INCLUDE (deep)",
                "postgresql|(deep(75))|(deep(75))"
            })
    void whatGoesBeyondColumnsIsKept(String dialect, String list, String kept) throws Exception {
        TableDefinition bed = bed(
                dialect,
                "CREATE TABLE bed (id INTEGER PRIMARY KEY, name VARCHAR(9), deep INTEGER);\nCREATE INDEX ix ON bed "
                        + list + ";\n");
        assertThat(bed.indexes()).hasSize(1);
        assertThat(bed.indexes().get(0).parts()).isEmpty();
        assertThat(bed.indexes().get(0).own().map(SqlText::sql)).contains(kept);
    }

    @Test
    void beginningsOfTextsAreReadWhereverAnIndexIsMade() throws Exception {
        TableDefinition bed = bed(
                "mariadb",
                "CREATE TABLE `bed` (`id` int(11) NOT NULL, `name` text, PRIMARY KEY (`id`), KEY `within` (`name`(9)) USING"
                        + " BTREE COMMENT 'where (it is)');\nCREATE INDEX `before` USING BTREE ON bed (id DESC);\nCREATE UNIQUE INDEX `behind` ON `bed` (`id`, `name`(7) DESC)"
                        + " USING BTREE COMMENT 'x (y)';\n");
        assertThat(bed.indexes())
                .extracting(i -> i.name() + " " + i.unique() + " " + i.parts())
                .containsExactlyInAnyOrder(
                        "within false [name (the first 9)]",
                        "before false [id descending]",
                        "behind true [id, name (the first 7) descending]");
    }

    /** MariaDB knows no index of what is computed, though others that speak like it do. */
    @Test
    void anIndexThatTheSystemItselfDoesNotHaveIsLeftBehind() throws Exception {
        String script = "CREATE TABLE `bed` (`id` int(11) NOT NULL, `name` varchar(9), PRIMARY KEY (`id`), KEY `low`"
                + " ((lower(`name`))));\nINSERT INTO `bed` VALUES (1, 'moss');\nCREATE FULLTEXT INDEX words ON bed (name);\n";
        String url = Servers.newMaria();
        try (Place place = open("mariadb", script);
                TargetPlace target = Places.openTarget(url)) {
            TransferResult result = Load.from(place).into(target);
            assertThat(result.rows()).isEqualTo(1);
            assertThat(result.leftBehind())
                    .extracting(LeftBehind::toString)
                    .contains(
                            "index bed.low: MariaDB has no such index: ((lower(`name`)))",
                            "fulltext index words: its SQL is MariaDB's own; make it anew at the target");
        }
        assertThat(Databases.rows(
                        url,
                        "SELECT COUNT(*) FROM information_schema.STATISTICS WHERE TABLE_SCHEMA = DATABASE()"
                                + " AND TABLE_NAME = 'bed' AND INDEX_NAME <> 'PRIMARY'"))
                .containsExactly("0");
    }

    private static Optional<String> collation(TableDefinition table, String column) {
        return table.column(column).map(ColumnDefinition::collation);
    }

    @Test
    void textsAreComparedAsTheScriptSays() throws Exception {
        TableDefinition maria = bed(
                "mariadb",
                "CREATE TABLE `bed` (`id` int(11) NOT NULL, `own` varchar(9) COLLATE utf8mb4_bin, `plain` varchar(9), `set`"
                        + " varchar(9) CHARACTER SET latin1 DEFAULT 'x', `both` text CHARACTER SET latin1 COLLATE latin1_german1_ci,"
                        + " `kind` enum('a','b'), `raw` blob, `ours` varchar(9) COLLATE utf8mb4_nopad_bin, PRIMARY KEY (`id`))"
                        + " ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci COMMENT='a bed';\n");
        assertThat(maria.columns())
                .extracting(ColumnDefinition::collation)
                .containsExactly(
                        "",
                        "utf8mb4_bin",
                        "utf8mb4_unicode_ci",
                        "latin1_swedish_ci",
                        "latin1_german1_ci",
                        "utf8mb4_unicode_ci",
                        "",
                        "");
        assertThat(maria.comment()).isEqualTo("a bed");
        TableDefinition old =
                bed("mariadb", "CREATE TABLE `bed` (`name` varchar(9)) ENGINE=MyISAM DEFAULT CHARSET=utf8;\n");
        assertThat(collation(old, "name")).contains("utf8mb3_general_ci");
        TableDefinition binary = bed(
                "mariadb",
                "CREATE TABLE bed (a varchar(9) BINARY DEFAULT NULL, b char(9) character set ascii binary, c binary(4), d inet6, e set('x','y'),"
                        + " f year) CHARACTER SET 'latin1';\n");
        assertThat(binary.columns())
                .extracting(ColumnDefinition::collation)
                .containsExactly("latin1_bin", "ascii_bin", "", "", "latin1_swedish_ci", "");
        assertThat(binary.columns().get(0).sourceType()).isEqualTo("varchar(9)");
        TableDefinition postgres = bed(
                "postgresql",
                "CREATE TABLE public.bed (a text COLLATE \"de-x-icu\" NOT NULL, b character varying(9) COLLATE pg_catalog.\"C\""
                        + " DEFAULT 'x', c text COLLATE \"default\");\n");
        assertThat(postgres.columns())
                .extracting(ColumnDefinition::collation)
                .containsExactly("\"de-x-icu\"", "\"C\"", "");
        assertThat(postgres.columns()).extracting(ColumnDefinition::nullable).containsExactly(false, true, true);
        TableDefinition sqlite =
                bed("sqlite", "CREATE TABLE bed (a TEXT COLLATE nocase UNIQUE, b TEXT COLLATE BINARY, c TEXT);\n");
        assertThat(sqlite.columns()).extracting(ColumnDefinition::collation).containsExactly("NOCASE", "", "");
        assertThat(sqlite.uniqueKeys()).hasSize(1);
    }

    /** A script of ours for a system brings back what it was made of. */
    @ParameterizedTest
    @CsvSource({"MariaDB, latin1_german1_ci", "SQLite, NOCASE", "PostgreSQL, '\"C\"'"})
    void aScriptOfOursHoldsThem(String system, String collation) throws Exception {
        String url = TestSystem.of(system).fresh(folder);
        Databases.run(url, "CREATE TABLE bed (id INTEGER PRIMARY KEY, name VARCHAR(9) COLLATE " + collation + ")");
        Path script = folder.resolve("ours.sql");
        OpenOptions options = OpenOptions.builder()
                .files(FileSettings.NONE.with("dialect", system.toLowerCase(java.util.Locale.ROOT)))
                .build();
        try (Place from = Places.open(url);
                TargetPlace to = Places.openTarget(PlaceAddress.of(script.toString()), options)) {
            Load.from(from).tables("bed").into(to);
        }
        try (Place from = Places.open(url);
                Place to = Places.open(PlaceAddress.of(script.toString()), options)) {
            TableName bed = TableName.of("bed");
            assertThat(collation(to.define(bed), "name"))
                    .isEqualTo(collation(from.define(bed), "name"))
                    .contains(collation);
        }
    }

    /** The database itself tells of them in the same words. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "sqlite|name TEXT, UNIQUE (name COLLATE NOCASE)||key bed.UNIQUE (name COLLATE NOCASE): it comes as one that compares its columns as they are compared themselves",
                "sqlite|name TEXT UNIQUE ON CONFLICT REPLACE||on conflict bed.name: what becomes of a record that breaks a rule isn't carried: the rule refuses it",
                "sqlite|name TEXT|STRICT|strictness bed: it comes as a table whose columns take any value",
                "postgresql|name text, CONSTRAINT k UNIQUE NULLS NOT DISTINCT (name)||key bed.k: it comes as one to which two nulls aren't the same",
                "postgresql|name text, CONSTRAINT k UNIQUE (name) DEFERRABLE||key bed.k: it comes without its timing: it holds after each statement",
                "postgresql|name text, CONSTRAINT k UNIQUE (name) INCLUDE (id)||key bed.k: it comes without the columns that its index includes",
                "postgresql|name text, CONSTRAINT k FOREIGN KEY (id, name) REFERENCES soil (id, name) MATCH FULL||reference bed.k: it comes without MATCH FULL: where a part of it is null, the rest isn't looked at",
                "postgresql|name text, CONSTRAINT k CHECK (id > 3) NOT ENFORCED||check bed.k: it isn't enforced, so records may break it",
                "mariadb|seen timestamp NOT NULL DEFAULT current_timestamp() ON UPDATE current_timestamp()||on update bed.seen: it comes as a column that keeps its moment when its record is changed",
                "mariadb|name varchar(9) INVISIBLE||invisibility bed.name: it comes as a column like any other, which SELECT * gives as well",
                "mariadb|name varchar(9)|WITH SYSTEM VERSIONING|versioning bed: its records are carried as they are now, without their history",
                "mariadb|name varchar(9)|PARTITION BY HASH (id) PARTITIONS 4|partitioning bed: its partitions are carried as one table"
            })
    void whatNoOtherSystemHasIsTold(String dialect, String columns, String options, String told) throws Exception {
        String sql = "CREATE TABLE bed (id INTEGER PRIMARY KEY, " + columns + ") " + (options == null ? "" : options)
                + ";\nINSERT INTO bed (id) VALUES (1);\n";
        try (Place place = open(dialect, sql)) {
            TableDefinition bed = place.define(TableName.of("bed"));
            assertThat(bed.columns()).hasSize(2);
            assertThat(bed.checks()).as("what doesn't hold").isEmpty();
            assertThat(place.leftBehind()).extracting(LeftBehind::toString).contains(told);
        }
    }

    /** Names that are words elsewhere, and what is as usual, isn't told of. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "postgresql|include text, CONSTRAINT k UNIQUE (include)",
                "postgresql|name text COLLATE \"C\" UNIQUE, CHECK (name <> 'NOT VALID')",
                "postgresql|up integer REFERENCES bed (id) ON UPDATE CASCADE ON DELETE SET NULL DEFERRABLE",
                "sqlite|name TEXT COLLATE NOCASE UNIQUE",
                "mariadb|up int REFERENCES bed (id) ON UPDATE CASCADE"
            })
    void whatIsUsualIsNotTold(String dialect, String columns) throws Exception {
        try (Place place = open(dialect, "CREATE TABLE bed (id INTEGER PRIMARY KEY, " + columns + ");\n")) {
            assertThat(place.define(TableName.of("bed")).columns()).hasSize(2);
            assertThat(place.leftBehind()).isEmpty();
        }
    }

    @Test
    void aCounterGoesOnWhereItWas() throws Exception {
        TableDefinition bed = bed(
                "mariadb",
                "CREATE TABLE `bed` (`id` int(11) NOT NULL AUTO_INCREMENT, PRIMARY KEY (`id`)) ENGINE=InnoDB AUTO_INCREMENT=4711;\n"
                        + "INSERT INTO `bed` VALUES (17);\nALTER TABLE `bed` COMMENT = 'a bed';\n");
        assertThat(bed.columns().get(0).identity().orElseThrow().next()).isEqualTo(4711);
        assertThat(bed.comment()).isEqualTo("a bed");
    }

    /** Rules that records may break, since they are switched off or were never looked at. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "oracle|CREATE TABLE BED (ID NUMBER(9), CONSTRAINT K CHECK (ID > 3) DISABLE)|BED|check BED.K: it isn't enforced, so records may break it",
                "oracle|CREATE TABLE BED (ID NUMBER(9), CONSTRAINT K CHECK (ID > 3) ENABLE NOVALIDATE)|BED|check BED.K: it was made without a look at the records, which may break it",
                "sqlserver|CREATE TABLE [dbo].[bed] ([id] int);ALTER TABLE [dbo].[bed] WITH NOCHECK ADD CONSTRAINT [k] CHECK ([id] > 3);ALTER TABLE [dbo].[bed] NOCHECK CONSTRAINT [k]|bed|rule bed.k: it isn't enforced, so records may break it"
            })
    void rulesThatDoNotHoldAreLeftBehind(String dialect, String sql, String table, String told) throws Exception {
        try (Place place = open(dialect, sql.replace(";", ";\n") + ";\n")) {
            assertThat(place.define(TableName.of(table)).checks()).isEmpty();
            assertThat(place.leftBehind()).extracting(LeftBehind::toString).contains(told);
        }
    }

    /** A text is JSON if its check says that and nothing else; other checks hold. */
    @Test
    void onlyWhatMustBeJsonIsJson() throws Exception {
        TableDefinition bed = bed(
                "mariadb",
                "CREATE TABLE `bed` (`a` longtext CHECK (json_valid(`a`)), `b` longtext CHECK (json_valid(`b`) or `b` = ''),"
                        + " `c` longtext DEFAULT 'CHECK (json_valid(', `d` int, CONSTRAINT `whole` CHECK (json_valid(`c`) and `d` > 3));\n");
        assertThat(bed.columns())
                .extracting(c -> c.type().name().name())
                .containsExactly("JSON", "CLOB", "CLOB", "INTEGER");
        assertThat(bed.checks())
                .extracting(c -> c.expression())
                .containsExactly("json_valid(`b`) or `b` = ''", "json_valid(`c`) and `d` > 3");
    }

    private static String counter(TableDefinition table, String column) {
        return table.column(column)
                .flatMap(ColumnDefinition::identity)
                .map(i -> i.start() + " by " + i.increment() + ", next " + i.next())
                .orElse("none");
    }

    /** As the server's own tools write them, and as people do. */
    @Test
    void sequencesAreTheCountersOfTheirColumns() throws Exception {
        String sql =
                """
                CREATE SEQUENCE public."Old_seq"
                    AS integer
                    START WITH 5
                    INCREMENT BY 3
                    NO MINVALUE
                    NO MAXVALUE
                    CACHE 1;
                CREATE SEQUENCE alone START 7;
                CREATE SEQUENCE down INCREMENT -2;
                CREATE TABLE public.bed (a integer NOT NULL, b serial, c bigint NOT NULL, d integer DEFAULT nextval('down'));
                ALTER SEQUENCE public."Old_seq" OWNED BY public.bed.a;
                ALTER TABLE ONLY public.bed ALTER COLUMN a SET DEFAULT nextval('public."Old_seq"'::regclass);
                ALTER TABLE public.bed ALTER COLUMN c ADD GENERATED BY DEFAULT AS IDENTITY (
                    SEQUENCE NAME public.bed_of_c
                    START WITH 10
                    INCREMENT BY 10
                );
                SELECT pg_catalog.setval('public."Old_seq"', 4711, true);
                SELECT pg_catalog.setval('public.bed_b_seq', 17, false);
                SELECT setval('bed_of_c', 9223372036854775);
                """;
        try (Place place = open("postgresql", sql)) {
            TableDefinition bed = place.define(TableName.of("bed"));
            assertThat(counter(bed, "a")).isEqualTo("5 by 3, next 4714");
            assertThat(counter(bed, "b")).isEqualTo("1 by 1, next 17");
            assertThat(counter(bed, "c")).isEqualTo("10 by 10, next 9223372036854785");
            assertThat(counter(bed, "d")).isEqualTo("-1 by -2, next -1");
            assertThat(place.leftBehind())
                    .extracting(LeftBehind::toString)
                    .containsExactly("sequence alone: it belongs to no column");
        }
    }

    @Test
    void aDatabaseTellsOfKeysThatCompareOtherwise() throws Exception {
        String url = TestSystem.SQLITE.fresh(folder);
        Databases.run(
                url,
                "CREATE TABLE bed (id INTEGER PRIMARY KEY, name TEXT, same TEXT COLLATE NOCASE UNIQUE, UNIQUE (name COLLATE NOCASE))");
        try (Place place = Places.open(url)) {
            assertThat(place.leftBehind())
                    .extracting(LeftBehind::toString)
                    .containsExactly(
                            "key bed.name: it compares name by NOCASE, and comes as one that compares it as the"
                                    + " column does");
        }
    }

    /** A domain is written out where a column has one: its type, its default, its checks, and that it can't be null. */
    @Test
    void domainsAreWrittenOut() throws Exception {
        String script =
                """
                CREATE DOMAIN public.depth AS numeric(9,2) DEFAULT 1.5 NOT NULL
                    CONSTRAINT depth_check CHECK (((VALUE >= (0)::numeric) AND (VALUE <= (30)::numeric)));
                CREATE DOMAIN public."Wet" AS public.depth CHECK ((VALUE <> (7)::numeric));
                CREATE TYPE public.mood AS ENUM ('dry', 'damp');
                CREATE DOMAIN public.weather AS public.mood;
                CREATE SEQUENCE public.bed_id_seq;
                CREATE DOMAIN public.number AS bigint;
                CREATE TABLE public.bed (
                    id public.number DEFAULT nextval('public.bed_id_seq'::regclass) NOT NULL,
                    "the value" public.depth DEFAULT 2,
                    wet public."Wet",
                    air public.weather,
                    many public.depth[]
                );
                """;
        try (Place place = open("postgresql", script)) {
            TableDefinition bed = place.define(TableName.of("bed"));
            assertThat(bed.columns().stream().limit(4).map(c -> c.name() + " " + c.type() + " " + c.nullable()))
                    .containsExactly(
                            "id BIGINT false",
                            "the value DECIMAL(9,2) false",
                            "wet DECIMAL(9,2) false",
                            "air CHARACTER VARYING(4) true");
            assertThat(bed.columns().get(0).identity()).isPresent();
            assertThat(bed.columns().get(1).defaultValue()).hasToString("Optional[Literal[text=2.00]]");
            assertThat(bed.columns().get(2).defaultValue()).hasToString("Optional[Literal[text=1.50]]");
            assertThat(bed.columns().get(3).enumeration()).isPresent();
            assertThat(bed.checks().stream().map(c -> c.expression()))
                    .containsExactlyInAnyOrder(
                            "((\"the value\" >= (0)::numeric) AND (\"the value\" <= (30)::numeric))",
                            "((\"wet\" >= (0)::numeric) AND (\"wet\" <= (30)::numeric))",
                            "(\"wet\" <> (7)::numeric)");
            assertThat(place.leftBehind().stream().map(l -> l.kind() + " " + l.name()))
                    .contains("domain bed.id", "domain bed.the value", "domain bed.wet", "domain bed.air");
        }
    }

    @Test
    void aliasesOfTypesAreWrittenOut() throws Exception {
        TableDefinition bed = bed(
                "sqlserver",
                "CREATE TYPE [dbo].[Flag] FROM bit NOT NULL;\nCREATE TYPE dbo.Name FROM nvarchar(50) NULL;\n"
                        + "CREATE TABLE dbo.bed (id int NOT NULL, dry [dbo].[Flag] DEFAULT ((1)), called dbo.Name, other Name NOT NULL);\n");
        assertThat(bed.columns().stream().map(c -> c.name() + " " + c.type() + " " + c.nullable()))
                .containsExactly(
                        "id INTEGER false",
                        "dry BOOLEAN false",
                        "called CHARACTER VARYING(50) true",
                        "other CHARACTER VARYING(50) false");
    }

    /** By its name alone, a domain may look like what it is made of; and a script may say anything. */
    @Test
    void aDomainOfAnOddNameIsWrittenOutOnce() throws Exception {
        TableDefinition bed = bed(
                "postgresql",
                """
                CREATE DOMAIN own.bigint AS bigint NOT NULL;
                CREATE DOMAIN a AS b;
                CREATE DOMAIN b AS a;
                CREATE DOMAIN own."o.dd ""one""\" AS date NOT NULL;
                CREATE TABLE bed (id own.bigint, deep a, wet b, day own."o.dd ""one""\");
                """);
        assertThat(bed.columns().stream().map(c -> c.name() + " " + c.type().name() + " " + c.nullable()))
                .containsExactly("id BIGINT false", "deep CLOB true", "wet CLOB true", "day DATE false");
    }

    /** What is read again for each column of it isn't longer than a person would write it. */
    @Test
    void aDomainThatIsTooLongIsLeftBehind() throws Exception {
        try (Place place = open(
                "postgresql",
                "CREATE DOMAIN depth AS integer CHECK (VALUE > 0" + " OR VALUE > 1".repeat(1_000)
                        + ");\nCREATE TABLE bed (id integer, deep depth);\n")) {
            assertThat(place.leftBehind().stream().map(l -> l.kind() + " " + l.name()))
                    .contains("domain depth");
            assertThat(place.define(TableName.of("bed")).checks()).isEmpty();
        }
    }
}
