package org.orderlyferry.databases.script;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import net.sf.jsqlparser.parser.CCJSqlParserUtil;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.reconcile.ReconcileResult;
import org.orderlyferry.testkit.doubles.Contents;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.generated.GeneratedRows;
import org.orderlyferry.testkit.generated.GeneratedTables;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.testkit.herbarium.HostileTexts;
import org.orderlyferry.work.Load;

/**
 * Scripts for systems of which no server runs here: they are read back, taken by somebody else's parser, spelt as H2 takes it
 * in the system's mode, and hold nothing that a shell would take for its own.
 */
class UnmetSystemsTest {

    @TempDir
    static Path folder;

    private static Path old;

    @BeforeAll
    static void makeAHerbarium() throws Exception {
        old = folder.resolve("old.mv.db");
        new Herbarium().specimens(150).readings(1_100).commonDates(true).create(old);
    }

    private static OpenOptions in(String dialect) {
        return OpenOptions.builder()
                .files(FileSettings.NONE.with("dialect", dialect))
                .build();
    }

    private static Path script(String dialect, Place source, String... tables) {
        Path script = folder.resolve(dialect + "-" + System.nanoTime() + ".sql");
        try (TargetPlace target = Places.openTarget(PlaceAddress.of(script), in(dialect))) {
            Load.from(source).tables(tables).into(target);
        }
        return script;
    }

    /** What Oracle holds as null, and what is too long for its literals, is refused by name elsewhere. */
    private static Path herbarium(String dialect) {
        Path known = folder.resolve(dialect + "-herbarium.sql");
        if (Files.exists(known)) {
            return known;
        }
        try (Place source = Places.open(old.toString())) {
            boolean oracle = dialect.equals("oracle");
            String[] tables = source.tables().stream()
                    .map(TableName::toString)
                    .filter(t -> !t.equals("calibration"))
                    .filter(t ->
                            !oracle || !List.of("label_draft", "sheet_image").contains(t))
                    .toArray(String[]::new);
            try (TargetPlace target = Places.openTarget(PlaceAddress.of(known), in(dialect))) {
                Load.from(source).tables(tables).rejects(why -> {}).into(target);
            }
            return known;
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"sqlserver", "oracle"})
    void aScriptIsReadBackWithAllDefinitionsAndRecords(String dialect) {
        Path script = herbarium(dialect);
        try (Place source = Places.open(old.toString());
                Place read = Places.open(script.toString())) {
            assertThat(read.leftBehind()).isEmpty();
            for (TableName table : read.tables()) {
                TableDefinition meant = source.define(table);
                TableDefinition there = read.define(table);
                assertThat(there.primaryKey().map(k -> k.columns()))
                        .isEqualTo(meant.primaryKey().map(k -> k.columns()));
                assertThat(there.foreignKeys())
                        .extracting(k -> k.columns() + " " + k.target() + " " + k.targetColumns())
                        .isEqualTo(meant.foreignKeys().stream()
                                .map(k -> k.columns() + " " + k.target() + " " + k.targetColumns())
                                .toList());
                assertThat(there.comment()).isEqualTo(meant.comment());
                assertThat(there.columns())
                        .extracting(c -> c.nullable() + " " + c.comment() + " "
                                + c.identity().isPresent() + " "
                                + c.defaultValue().isPresent())
                        .isEqualTo(meant.columns().stream()
                                .map(c -> c.nullable() + " " + c.comment() + " "
                                        + c.identity().isPresent() + " "
                                        + c.defaultValue().isPresent())
                                .toList());
                if (!table.name().equals("specimen") && meant.columnNames().equals(there.columnNames())) {
                    ReconcileResult result = Reconcile.between(source, read)
                            .tables(table.toString())
                            .compare();
                    assertThat(result.isEqual()).as(result.toString()).isTrue();
                }
            }
        }
    }

    /** A script's statements without what shells take for themselves. */
    private static List<String> statements(Path script) throws Exception {
        List<String> statements = new ArrayList<>();
        StringBuilder statement = new StringBuilder();
        for (String line : Files.readAllLines(script)) {
            if (line.equals("GO")
                    || line.startsWith("--")
                    || line.matches("(WHENEVER|PROMPT|SET (DEFINE|SQLBLANKLINES|NOEXEC)) .*")
                    || line.startsWith("IF @")
                    || line.startsWith("IF LEN")) {
                continue;
            }
            statement.append(statement.isEmpty() ? "" : "\n").append(line);
            if (line.endsWith(";")) {
                statement.setLength(statement.length() - 1);
                statements.add(statement.toString());
                statement.setLength(0);
            }
        }
        assertThat(statement).isEmpty();
        return statements;
    }

    @ParameterizedTest
    @ValueSource(strings = {"sqlserver", "oracle"})
    void somebodyElsesParserTakesEachStatement(String dialect) throws Exception {
        List<String> statements = statements(herbarium(dialect));
        assertThat(statements).hasSizeGreaterThan(20);
        int parsed = 0;
        for (String sql : statements) {
            boolean known = sql.startsWith("INSERT") || sql.startsWith("CREATE") || sql.startsWith("ALTER TABLE");
            // procedures and what only the system has are in no general grammar
            if (known
                    && !sql.contains(" GENERATED ")
                    && !sql.contains("WITH TIME ZONE '")
                    && !sql.contains(" IS NOT NULL")
                    && !sql.contains(" ADD CHECK")) {
                CCJSqlParserUtil.parse(
                        sql.replace(" CHAR)", ")").replaceAll("(?m)(?<=\\d)[df](?=,$|\\)$)", ""),
                        parser -> parser.withSquareBracketQuotation(dialect.equals("sqlserver"))
                                .withTimeOut(60_000));
                parsed++;
            }
        }
        assertThat(parsed).isGreaterThan(20);
    }

    /** H2 takes many words of these systems: it shows the spelling, and nothing of what a server would do. */
    @ParameterizedTest
    @ValueSource(strings = {"sqlserver", "oracle"})
    void h2TakesTheSpellingInTheSystemsMode(String dialect) throws Exception {
        String url = "jdbc:h2:mem:" + dialect + ";MODE=" + (dialect.equals("oracle") ? "Oracle" : "MSSQLServer");
        int[] rows = new int[1];
        try (Connection connection = DriverManager.getConnection(url, "sa", "");
                Statement statement = connection.createStatement()) {
            statement.execute(
                    "CREATE ALIAS IF NOT EXISTS NCHAR AS 'String nchar(int code) { return String.valueOf((char) code); }'");
            statement.execute("CREATE ALIAS IF NOT EXISTS TO_CLOB AS 'String large(String text) { return text; }'");
            for (String sql : statements(herbarium(dialect))) {
                String taken = sql.replaceAll(" COLLATE \\w+", "")
                        .replaceAll("sysdatetime(offset)?\\(\\)", "CURRENT_TIMESTAMP")
                        .replace("SYSTIMESTAMP", "CURRENT_TIMESTAMP")
                        .replaceAll(" datetimeoffset\\(\\d\\)", " TIMESTAMP WITH TIME ZONE")
                        .replaceAll("(?m)(?<=\\d)[df](?=,$|\\)$)", "");
                if (taken.startsWith("CREATE TABLE") || taken.startsWith("INSERT")) {
                    statement.execute(taken);
                    rows[0] += Math.max(0, statement.getUpdateCount());
                }
            }
        }
        assertThat(rows[0]).isGreaterThan(1_500);
    }

    /**
     * For whoever has a server, with an empty schema and the driver's jar on the class path
     * ({@code -Dmaven.test.additionalClasspath=…}): its URL in FERRY_TEST_SQLSERVER or FERRY_TEST_ORACLE.
     */
    @ParameterizedTest
    @ValueSource(strings = {"sqlserver", "oracle"})
    void aRealServerTakesTheScriptWhereThereIsOne(String dialect) throws Exception {
        String url = System.getenv("FERRY_TEST_" + dialect.toUpperCase(Locale.ROOT));
        assumeTrue(url != null, "no server of it was named");
        Path script = herbarium(dialect);
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            for (String sql : statements(script)) {
                statement.execute(sql);
            }
        }
        try (Place read = Places.open(script.toString());
                Place server = Places.open(url)) {
            for (TableName table : read.tables()) {
                ReconcileResult result =
                        Reconcile.between(read, server).tables(table.toString()).compare();
                assertThat(result.isEqual()).as(result.toString()).isTrue();
            }
        }
    }

    private static ListedPlace listed(List<String> texts) {
        List<List<String>> records = new ArrayList<>();
        for (int i = 0; i < texts.size(); i++) {
            records.add(List.of(Integer.toString(i), texts.get(i)));
        }
        ListedPlace place = new ListedPlace();
        place.with(
                TableDefinition.named(TableName.of("label"))
                        .column("id", LogicalType.INTEGER)
                        .column("text", LogicalType.CLOB)
                        .build(),
                records);
        return place;
    }

    private static List<String> hostile() {
        List<String> texts = new ArrayList<>(HostileTexts.ALL);
        texts.addAll(List.of(
                "moss\nGO\nfern",
                "GO",
                "moss\r\nGO 5\r\n",
                "$(moss) and $$(fern) and $(",
                "\n:r moss.sql\n",
                "\n!!rm moss",
                "moss\n/\nfern",
                "/",
                "&moss and &&fern",
                "moss;\n",
                "ends in a hyphen -\nand goes on",
                "q'[moss]' and N'fern'",
                "\n\n\n",
                "moss\\\nfern",
                "it''s" + "\u00fc\ud83c\udf3f".repeat(3_000),
                "'".repeat(5_000)));
        texts.removeIf(String::isEmpty);
        return texts;
    }

    @ParameterizedTest
    @ValueSource(strings = {"sqlserver", "oracle"})
    void noTextIsTakenByAShellForItsOwn(String dialect) throws Exception {
        ListedPlace source = listed(hostile());
        Path script = script(dialect, source);
        try (Place read = Places.open(script.toString())) {
            ReconcileResult result = Reconcile.between(source, read).compare();
            assertThat(result.isEqual()).as(result.toString()).isTrue();
        }
        for (String line : Files.readAllLines(script)) {
            assertThat(line.contains("$(")).isEqualTo(dialect.equals("oracle") && line.contains("$(moss)"));
            assertThat(line).doesNotStartWith(":").doesNotStartWith("!").isNotBlank();
            assertThat(line.matches("(?s)GO|[^G].*")).as(line).isTrue();
            assertThat(line.chars()).allMatch(c -> c >= ' ');
            if (dialect.equals("oracle")) {
                assertThat(line).isNotEqualTo("/").doesNotEndWith("-");
                assertThat(line.length()).isLessThan(2_499);
            }
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"sqlserver", "oracle"})
    void generatedRecordsComeBackOrAreRejectedByName(String dialect) {
        for (long seed = 0; seed < 6; seed++) {
            ListedPlace source = new GeneratedRows(seed).fill(new GeneratedTables(seed).some(4), 30);
            Path script = folder.resolve(dialect + "-generated-" + seed + ".sql");
            List<String> rejected = new ArrayList<>();
            long written;
            try (TargetPlace target = Places.openTarget(PlaceAddress.of(script), in(dialect))) {
                var result = Load.from(source)
                        .rejects(why -> rejected.add(why.getMessage()))
                        .into(target);
                written = result.tables().stream().mapToLong(t -> t.written()).sum();
            }
            try (Place read = Places.open(PlaceAddress.of(script), in(dialect))) {
                long there = read.tables().stream()
                        .mapToLong(t -> rows(read, t).size())
                        .sum();
                assertThat(there).as(rejected.toString()).isEqualTo(written);
                assertThat(rejected).allMatch(why -> why.contains("column"));
            }
        }
    }

    private static final String OF_A_TOOL =
            """
            USE [Quillmoor]
            GO
            /****** Object:  Table [dbo].[sheet]    Script Date: 09/04/2031 07:30:00 ******/
            SET ANSI_NULLS ON
            GO
            SET QUOTED_IDENTIFIER ON
            GO
            IF NOT EXISTS (SELECT * FROM sys.objects WHERE name = N'sheet')
            BEGIN
            CREATE TABLE [dbo].[sheet](
            \t[id] [int] IDENTITY(100,5) NOT NULL,
            \t[odd ]] name] [nvarchar](200) COLLATE Latin1_General_CI_AS NULL,
            \t[mass] [decimal](10, 3) NULL,
            \t[price] [money] NULL,
            \t[made] [datetime2](7) NOT NULL,
            \t[old] [datetime] NULL,
            \t[day] [date] NULL,
            \t[seen] [datetimeoffset](3) NULL,
            \t[rough] [smalldatetime] NULL,
            \t[dry] [bit] NOT NULL,
            \t[guid] [uniqueidentifier] ROWGUIDCOL NULL,
            \t[scan] [varbinary](max) NULL,
            \t[whole]  AS ([mass]*(2)) PERSISTED,
            \t[cabinet] [int] NULL,
             CONSTRAINT [PK_sheet] PRIMARY KEY CLUSTERED\s
            (
            \t[id] ASC
            )WITH (PAD_INDEX = OFF, STATISTICS_NORECOMPUTE = OFF, IGNORE_DUP_KEY = OFF) ON [PRIMARY],
             CONSTRAINT [UQ_sheet] UNIQUE NONCLUSTERED ([guid] ASC) ON [PRIMARY]
            ) ON [PRIMARY] TEXTIMAGE_ON [PRIMARY]
            END
            GO
            CREATE TABLE [dbo].[cabinet]([id] [int] NOT NULL PRIMARY KEY)
            GO
            SET IDENTITY_INSERT [dbo].[sheet] ON\s
            GO
            INSERT [dbo].[sheet] ([id], [odd ]] name], [mass], [price], [made], [old], [day], [seen], [rough], [dry], [guid], [scan]) VALUES (100, N'moss''s
            GO
            second line', CAST(12.500 AS Decimal(10, 3)), 12.5000, CAST(N'2031-04-09T07:30:00.2500000' AS DateTime2), CAST(0x0000BB49007B98A0 AS DateTime), CAST(0xA4500B AS Date), CAST(N'2031-04-09T07:30:00.5000000+02:00' AS DateTimeOffset), CAST(N'2031-04-09T07:30:00' AS SmallDateTime), 1, N'114955A1-D1F0-4B0A-9C8E-0123456789AB', 0x00FF10)
            INSERT [dbo].[sheet] ([id], [odd ]] name], [made], [dry]) VALUES (105, NULL, CAST(0x07000C41DD3EA4500B AS DateTime2), 0), (110, N'a' + NCHAR(9) + N'b', CONVERT(datetime2, N'2031-04-09T00:00:00', 126), 0)
            GO
            SET IDENTITY_INSERT [dbo].[sheet] OFF
            GO
            INSERT INTO dbo.cabinet VALUES (1);
            INSERT dbo.cabinet VALUES (2)
            INSERT dbo.cabinet VALUES (3)
            GO
            CREATE NONCLUSTERED INDEX [IX_sheet] ON [dbo].[sheet]
            (
            \t[cabinet] ASC,
            \t[day] DESC
            )
            INCLUDE([mass]) WHERE ([dry]=(1))
            WITH (PAD_INDEX = OFF) ON [PRIMARY]
            GO
            ALTER TABLE [dbo].[sheet] ADD  CONSTRAINT [DF_made]  DEFAULT (getdate()) FOR [made]
            GO
            ALTER TABLE [dbo].[sheet] ADD  DEFAULT ((0)) FOR [dry]
            GO
            ALTER TABLE [dbo].[sheet]  WITH CHECK ADD  CONSTRAINT [FK_cabinet] FOREIGN KEY([cabinet])
            REFERENCES [dbo].[cabinet] ([id])
            ON DELETE SET NULL
            GO
            ALTER TABLE [dbo].[sheet] CHECK CONSTRAINT [FK_cabinet]
            GO
            ALTER TABLE [dbo].[sheet]  WITH CHECK ADD  CONSTRAINT [CK_mass] CHECK  (([mass]>(0)))
            GO
            CREATE VIEW [dbo].[dry_sheets] AS
            SELECT [id] FROM [dbo].[sheet]; -- and no more
            INSERT [dbo].[cabinet] VALUES (99)
            GO
            EXEC sys.sp_addextendedproperty @name=N'MS_Description', @value=N'in grams' , @level0type=N'SCHEMA',@level0name=N'dbo', @level1type=N'TABLE',@level1name=N'sheet', @level2type=N'COLUMN',@level2name=N'mass'
            GO
            EXEC sys.sp_addextendedproperty N'MS_Description', N'One sheet', N'SCHEMA', N'dbo', N'TABLE', N'sheet'
            GO
            UPDATE dbo.cabinet SET id = 4 WHERE id = 3
            GO
            """;

    private static List<String> rows(Place place, TableName table) {
        return Contents.of(place.read(Slice.whole(place.define(table)))).stream()
                .map(Object::toString)
                .toList();
    }

    @ParameterizedTest
    @ValueSource(strings = {"UTF-8", "UTF-16"})
    void whatSqlServersOwnToolsWriteIsRead(String encoding) throws Exception {
        Path script = Files.write(
                folder.resolve("tool-" + encoding + ".sql"),
                OF_A_TOOL.replace("\n", "\r\n").getBytes(Charset.forName(encoding)));
        try (Place place = Places.open(script.toString())) {
            TableDefinition sheet = place.define(TableName.of("sheet"));
            assertThat(sheet.columns())
                    .extracting(c -> c.name() + " " + c.type())
                    .containsExactly(
                            "id INTEGER",
                            "odd ] name CHARACTER VARYING(200)",
                            "mass DECIMAL(10,3)",
                            "price DECIMAL(19,4)",
                            "made TIMESTAMP(7)",
                            "old TIMESTAMP(3)",
                            "day DATE",
                            "seen TIMESTAMP(3) WITH TIME ZONE",
                            "rough TIMESTAMP(0)",
                            "dry BOOLEAN",
                            "guid UUID",
                            "scan BINARY LARGE OBJECT",
                            "whole CHARACTER LARGE OBJECT",
                            "cabinet INTEGER");
            assertThat(sheet.primaryKey().orElseThrow().name()).isEqualTo("PK_sheet");
            assertThat(sheet.columns().get(0).identity().orElseThrow().increment())
                    .isEqualTo(5);
            assertThat(sheet.uniqueKeys())
                    .extracting(k -> k.columns().toString())
                    .containsExactly("[guid]");
            assertThat(sheet.foreignKeys().get(0).onDelete().sql()).isEqualTo("SET NULL");
            assertThat(sheet.checks()).hasSize(1);
            assertThat(sheet.comment()).isEqualTo("One sheet");
            assertThat(sheet.column("mass").orElseThrow().comment()).isEqualTo("in grams");
            assertThat(sheet.column("made").orElseThrow().defaultValue()).isPresent();
            assertThat(sheet.column("dry").orElseThrow().defaultValue().toString())
                    .contains("false");
            assertThat(sheet.column("whole").orElseThrow().generation()).isPresent();
            assertThat(sheet.indexes().get(0).columns()).containsExactly("cabinet", "day");
            assertThat(sheet.indexes().get(0).predicate()).isPresent();
            assertThat(rows(place, TableName.of("sheet")))
                    .containsExactly(
                            "[100, moss's\r\nGO\r\nsecond line, 12.500, 12.5000, 2031-04-09T07:30:00.25, 2031-04-09T07:30:00, "
                                    + "2031-04-09, 2031-04-09T05:30:00.5Z, 2031-04-09T07:30:00, true,"
                                    + " 114955a1-d1f0-4b0a-9c8e-0123456789ab, AP8Q, null, null]",
                            "[105, null, null, null, 2031-04-09T07:30:00, null, null, null, null, false, null, null, null, null]",
                            "[110, a\tb, null, null, 2031-04-09T00:00:00, null, null, null, null, false, null, null, null, null]");
            assertThat(rows(place, TableName.of("cabinet"))).containsExactly("[1]", "[2]", "[3]");
            assertThat(place.leftBehind())
                    .extracting(l -> l.kind() + " " + l.name())
                    .contains("view dry_sheets", "statement UPDATE", "statement CREATE INDEX … INCLUDE");
        }
    }

    @Test
    void whatOraclesOwnToolsWriteIsRead() throws Exception {
        Path script = Files.writeString(
                folder.resolve("tool.sql"),
                """
                --------------------------------------------------------
                --  DDL for Table SHEET
                --------------------------------------------------------

                  CREATE TABLE "QUILLMOOR"."SHEET"\s
                   (\t"ID" NUMBER(10,0) GENERATED BY DEFAULT ON NULL AS IDENTITY MINVALUE 1 MAXVALUE 9999999999999999999999999999 INCREMENT BY 1 START WITH 41 CACHE 20 NOORDER  NOCYCLE  NOKEEP  NOSCALE ,\s
                \t"NAME" VARCHAR2(200 CHAR) COLLATE "USING_NLS_COMP",\s
                \t"MASS" NUMBER(10,3),\s
                \t"COUNTED" NUMBER(*,0),\s
                \t"MADE" DATE DEFAULT SYSDATE,\s
                \t"SEEN" TIMESTAMP (6) WITH TIME ZONE,\s
                \t"STORY" CLOB,\s
                \t"SCAN" RAW(16),\s
                \t"RATIO" BINARY_DOUBLE,\s
                \t"CABINET" NUMBER
                   )  DEFAULT COLLATION "USING_NLS_COMP" SEGMENT CREATION IMMEDIATE\s
                  PCTFREE 10 PCTUSED 40 INITRANS 1 MAXTRANS 255 NOCOMPRESS LOGGING
                  STORAGE(INITIAL 65536 NEXT 1048576) TABLESPACE "USERS"\s
                 LOB ("STORY") STORE AS SECUREFILE (TABLESPACE "USERS" ENABLE STORAGE IN ROW) ;

                   COMMENT ON COLUMN "QUILLMOOR"."SHEET"."MASS" IS 'in grams';
                   COMMENT ON TABLE "QUILLMOOR"."SHEET"  IS 'One; sheet';
                create table quillmoor.cabinet (id number primary key);
                REM INSERTING into QUILLMOOR.SHEET
                SET DEFINE OFF;
                Insert into QUILLMOOR.SHEET (ID,NAME,MASS,COUNTED,MADE,SEEN,STORY,SCAN,RATIO,CABINET) values (1,'moss''s',12.5,3,to_date('2031-04-09 07:30:00','YYYY-MM-DD HH24:MI:SS'),to_timestamp_tz('09-APR-31 07.30.00.500000000 PM +02:00','DD-MON-RR HH.MI.SSXFF AM TZR'),TO_CLOB(q'[it's
                /
                 here]') || TO_CLOB(CHR(10) || 'end'),HEXTORAW('00FF'),1.5d,null);
                Insert into QUILLMOOR.SHEET (ID,NAME) values (2,q'!a;b!');
                insert into Sheet values (3, 'fern', null, null, date '2031-04-10', null, null, null, BINARY_DOUBLE_NAN, 7);
                INSERT INTO quillmoor.cabinet VALUES (7)
                ;
                COMMIT;
                --  DDL for Index SHEET_PK
                  CREATE UNIQUE INDEX "QUILLMOOR"."SHEET_IX" ON "QUILLMOOR"."SHEET" ("NAME", "MADE" DESC)\s
                  PCTFREE 10 INITRANS 2 MAXTRANS 255\s
                  TABLESPACE "USERS" ;
                  ALTER TABLE "QUILLMOOR"."SHEET" MODIFY ("NAME" NOT NULL ENABLE);
                  ALTER TABLE "QUILLMOOR"."SHEET" ADD CONSTRAINT "SHEET_PK" PRIMARY KEY ("ID")
                  USING INDEX PCTFREE 10 INITRANS 2 MAXTRANS 255\s
                  TABLESPACE "USERS"  ENABLE;
                  ALTER TABLE "QUILLMOOR"."SHEET" ADD CONSTRAINT "SHEET_FK" FOREIGN KEY ("CABINET")
                \t  REFERENCES "QUILLMOOR"."CABINET" ("ID") ON DELETE CASCADE ENABLE;
                CREATE OR REPLACE EDITIONABLE TRIGGER "QUILLMOOR"."SHEET_TR"\s
                before insert on sheet for each row
                begin
                  insert into cabinet values (99);
                end;
                /
                ALTER TRIGGER "QUILLMOOR"."SHEET_TR" ENABLE;
                BEGIN
                  insert into cabinet values (98);
                END;
                /
                """,
                StandardCharsets.UTF_8);
        try (Place place = Places.open(script.toString())) {
            TableName name = new TableName("QUILLMOOR", "SHEET");
            TableDefinition sheet = place.define(name);
            assertThat(sheet.columns())
                    .extracting(c -> c.name() + " " + c.type())
                    .containsExactly(
                            "ID DECIMAL(10,0)",
                            "NAME CHARACTER VARYING(200)",
                            "MASS DECIMAL(10,3)",
                            "COUNTED DECIMAL(38,0)",
                            "MADE TIMESTAMP(0)",
                            "SEEN TIMESTAMP(6) WITH TIME ZONE",
                            "STORY CHARACTER LARGE OBJECT",
                            "SCAN BINARY VARYING(16)",
                            "RATIO DOUBLE PRECISION",
                            "CABINET DECIMAL");
            assertThat(sheet.columns().get(0).identity().orElseThrow().start()).isEqualTo(41);
            assertThat(sheet.primaryKey().orElseThrow().columns()).containsExactly("ID");
            assertThat(sheet.foreignKeys().get(0).target().name()).isEqualTo("CABINET");
            assertThat(sheet.column("NAME").orElseThrow().nullable()).isFalse();
            assertThat(sheet.comment()).isEqualTo("One; sheet");
            assertThat(sheet.indexes().get(0).columns()).containsExactly("NAME", "MADE");
            assertThat(rows(place, name))
                    .containsExactly(
                            "[1, moss's, 12.500, 3, 2031-04-09T07:30:00, 2031-04-09T17:30:00.5Z, it's\n/\n here\nend, AP8=, 1.5, null]",
                            "[2, a;b, null, null, null, null, null, null, null, null]",
                            "[3, fern, null, null, 2031-04-10T00:00:00, null, null, null, NaN, 7]");
            assertThat(place.leftBehind())
                    .extracting(l -> l.kind() + " " + l.name())
                    .contains("statement block of BEGIN");
            assertThat(place.leftBehind().toString()).contains("SHEET_TR");
        }
    }
}
