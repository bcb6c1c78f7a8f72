package org.orderlyferry.databases.script;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.testkit.doubles.Contents;

/** Scripts as the own tools of SQL Server and Oracle write them. */
class ToolScriptsTest {

    @TempDir
    private Path folder;

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
            CREATE TABLE [dbo].[counted]([id] [int] IDENTITY(1,1) NOT NULL PRIMARY KEY, [twice] AS ([n]*(2)), [n] [int] NULL)
            GO
            INSERT dbo.counted VALUES (5), (6)
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

    @Test
    void whatIsCutOffInsideOfAStatementIsNeverTakenForWhole() throws Exception {
        String made = "CREATE TABLE [label]([id] [int] NOT NULL, [text] [nvarchar](9) NULL)\nGO\n";
        String brought = "INSERT [label] ([id], [text]) VALUES (1, N'x'),\n (2, N'y')";
        int whole = 0;
        for (int end = "INSERT [label]".length(); end < brought.length(); end++) {
            String cut = brought.substring(0, end);
            Path script = Files.writeString(folder.resolve("cut-" + end + ".sql"), made + cut);
            OpenOptions own = OpenOptions.builder()
                    .files(FileSettings.NONE.with("dialect", "sqlserver"))
                    .build();
            try (Place place = Places.open(PlaceAddress.of(script), own)) {
                boolean told =
                        place.leftBehind().stream().anyMatch(l -> l.name().equals("INSERT"));
                List<String> rows = rows(place, TableName.of("label"));
                // nothing says that more was to come behind the first list, or behind a head whose values aren't there
                boolean atList = cut.endsWith("'x')") && rows.equals(List.of("[1, x]"));
                assertThat(told || atList).as(cut).isTrue();
                whole += atList ? 1 : 0;
            } catch (MalformedFileException e) {
                assertThat(e.getMessage()).contains("the file ends").contains("line 3");
            }
        }
        assertThat(whole).isEqualTo(1);
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
            assertThat(rows(place, TableName.of("counted"))).containsExactly("[1, null, 5]", "[2, null, 6]");
            assertThat(place.leftBehind())
                    .extracting(l -> l.kind() + " " + l.name())
                    .contains(
                            "statement INSERT INTO sheet without whole",
                            "statement the computed column whole",
                            "view dry_sheets",
                            "statement UPDATE",
                            "statement CREATE INDEX … INCLUDE");
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
