package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;

/** Tables with every type that a server has, as its own users would make them, read and moved to all systems. */
class EveryTypeTest {

    @TempDir
    private Path folder;

    private void moveEverywhere(String source) throws Exception {
        Path set = folder.resolve("set");
        try (Place place = Places.open(source)) {
            Export.from(place).to(set);
        }
        List<String> targets =
                Stream.of(TestSystem.values()).map(s -> s.fresh(folder)).toList();
        for (String target : targets) {
            try (Place from = Places.open(set.toString());
                    TargetPlace to = Places.openTarget(target)) {
                Load.from(from).into(to);
            }
            try (Place a = Places.open(source);
                    Place b = Places.open(target)) {
                assertThat(Reconcile.between(a, b).compare().tables())
                        .as(target)
                        .allSatisfy(t -> assertThat(t.verdict())
                                .as("%s: %s", t.table(), t.differing())
                                .hasToString("EQUAL"));
            }
        }
    }

    private static String types(TableDefinition table) {
        StringBuilder types = new StringBuilder();
        for (ColumnDefinition column : table.columns()) {
            types.append(column.name()).append(": ").append(column.type()).append('\n');
        }
        return types.toString();
    }

    @Test
    void everyTypeOfPostgres() throws Exception {
        String source = Servers.newPostgres();
        Databases.run(
                source,
                "CREATE TYPE mood AS ENUM ('wet', 'dry')",
                "CREATE DOMAIN code AS varchar(8) NOT NULL CHECK (VALUE <> '')",
                "CREATE TABLE bed (id serial PRIMARY KEY, no int UNIQUE)",
                "CREATE TABLE every (id bigint GENERATED ALWAYS AS IDENTITY (START 5 INCREMENT 5) PRIMARY KEY,"
                        + " b boolean DEFAULT true, i2 smallint DEFAULT '-1', i4 int, i8 bigint, n numeric, n2"
                        + " numeric(38,10) DEFAULT 1.5, f4 real, f8 double precision, c char(5) DEFAULT 'ab', v"
                        + " varchar(9) DEFAULT 'it''s', t text, x bytea DEFAULT '\\x00ff', d date DEFAULT CURRENT_DATE,"
                        + " ti time(3), ts timestamp DEFAULT now(), tz timestamptz(0), iv interval, u uuid, j json, jb"
                        + " jsonb, xm xml, a int[], ta text[], m mood, co code DEFAULT 'q', ip inet, bi bit(3), mo money,"
                        + " g int GENERATED ALWAYS AS (i4 * 2) STORED)",
                "INSERT INTO every (i4, i8, n, f4, f8, t, ti, tz, iv, u, j, jb, xm, a, ta, m, ip, bi, mo) VALUES (7, 8,"
                        + " 1234567890.5, 0.1, 1e-310, 'x', '07:30:00.25', '2031-04-09 07:30:00+05:30', 'P1Y2M3DT4H5M6S',"
                        + " '00417000-0000-4000-8000-000000000417', '{\"b\": 1, \"a\": [1.50]}', '{\"b\": 1, \"a\": 2}',"
                        + " '<a/>', '{1,NULL,3}', '{\"a,b\",\"q\\\"uote\"}', 'wet', '10.0.0.1', B'101', 4.17)",
                "INSERT INTO every (b) VALUES (NULL)",
                "CREATE TABLE seen (y int, at date, bed int REFERENCES bed ON DELETE SET NULL ON UPDATE CASCADE)"
                        + " PARTITION BY RANGE (y)",
                "CREATE TABLE seen_1 PARTITION OF seen FOR VALUES FROM (0) TO (10)",
                "CREATE TABLE seen_2 PARTITION OF seen FOR VALUES FROM (10) TO (20)",
                "INSERT INTO bed (no) VALUES (17)",
                "INSERT INTO seen VALUES (1, '2031-04-09', 1), (11, NULL, NULL)",
                "CREATE INDEX lower_t ON every (lower(t))",
                "CREATE INDEX partly ON every (i4) WHERE i4 > 3",
                "CREATE UNIQUE INDEX down ON every (i8 DESC, i4)",
                "CREATE MATERIALIZED VIEW mv AS SELECT 1 AS one",
                "COMMENT ON COLUMN every.t IS 'a text'");
        try (Place place = Places.open(source)) {
            assertThat(place.tables()).extracting(TableName::name).containsExactly("bed", "every", "seen");
            TableDefinition every = place.define(TableName.of("every"));
            assertThat(types(every))
                    .isEqualTo(
                            """
                    id: BIGINT
                    b: BOOLEAN
                    i2: SMALLINT
                    i4: INTEGER
                    i8: BIGINT
                    n: DECIMAL
                    n2: DECIMAL(38,10)
                    f4: REAL
                    f8: DOUBLE PRECISION
                    c: CHARACTER(5)
                    v: CHARACTER VARYING(9)
                    t: CHARACTER LARGE OBJECT
                    x: BINARY LARGE OBJECT
                    d: DATE
                    ti: TIME(3)
                    ts: TIMESTAMP(6)
                    tz: TIMESTAMP(0) WITH TIME ZONE
                    iv: INTERVAL
                    u: UUID
                    j: JSON
                    jb: JSON
                    xm: XML
                    a: INTEGER ARRAY
                    ta: CHARACTER LARGE OBJECT ARRAY
                    m: CHARACTER VARYING(3)
                    co: CHARACTER VARYING(8)
                    ip: CHARACTER LARGE OBJECT
                    bi: CHARACTER LARGE OBJECT
                    mo: DECIMAL(19,2)
                    g: INTEGER
                    """);
            assertThat(every.column("id").orElseThrow().identity().orElseThrow().next())
                    .isEqualTo(15);
            assertThat(every.column("v").orElseThrow().defaultValue()).contains(new ColumnDefault.Literal("it's"));
            assertThat(every.column("i2").orElseThrow().defaultValue()).contains(new ColumnDefault.Literal("-1"));
            assertThat(every.column("x").orElseThrow().defaultValue()).contains(new ColumnDefault.Literal("AP8="));
            assertThat(every.column("co").orElseThrow().nullable()).isFalse();
            assertThat(every.indexes()).extracting(IndexDefinition::name).containsExactly("down", "lower_t", "partly");
            ForeignKey reference =
                    place.define(TableName.of("seen")).foreignKeys().get(0);
            assertThat(reference.onDelete()).isEqualTo(ReferentialAction.SET_NULL);
            assertThat(reference.onUpdate()).isEqualTo(ReferentialAction.CASCADE);
            assertThat(place.leftBehind())
                    .extracting(LeftBehind::kind, LeftBehind::name)
                    .extracting(Object::toString)
                    .containsExactly(
                            "(\"materialized view\", \"mv\")",
                            "(\"partitioning\", \"seen\")",
                            "(\"type\", \"every.bi\")",
                            "(\"domain\", \"every.co\")",
                            "(\"type\", \"every.ip\")");
        }
        moveEverywhere(source);
    }

    @Test
    void everyTypeOfMaria() throws Exception {
        String source = Servers.newMaria();
        Databases.run(
                source,
                "CREATE TABLE every (id int unsigned AUTO_INCREMENT PRIMARY KEY, b boolean DEFAULT 1, i1 tinyint, i1u tinyint"
                        + " unsigned, i2 smallint, i2u smallint unsigned, i3 mediumint, i8 bigint, i8u bigint unsigned, n"
                        + " decimal(12,2) DEFAULT 1.50, f float, d double, c char(5) DEFAULT 'a''b', v varchar(9), t"
                        + " mediumtext, bi binary(4), vb varbinary(9), bl blob, da date, ti time(3), dt datetime(6) DEFAULT"
                        + " CURRENT_TIMESTAMP(6), ts timestamp(3) NULL, y year, e enum('wet','dry'), s set('a','b'), j json, u"
                        + " uuid, bt bit(1), KEY down (i2 DESC, v), UNIQUE KEY vu (v), CHECK (i2 > -10)) COMMENT 'all of"
                        + " them'",
                "INSERT INTO every (i1, i1u, i2, i2u, i3, i8, i8u, f, d, v, t, bi, vb, bl, da, ti, ts, y, e, s, j, u, bt)"
                        + " VALUES (-128, 255, -9, 65535, 8388607, -9223372036854775808, 18446744073709551615, 0.1,"
                        + " 1e-300, 'x', 'long', x'00010203', x'ff', x'00', '2031-04-09', '07:30:00.250',"
                        + " '2031-04-09 07:30:00.5', 2031, 'wet', 'a,b', '{\"a\": 1.50}',"
                        + " '00417000-0000-4000-8000-000000000417', b'1')",
                "INSERT INTO every (b) VALUES (NULL)",
                "CREATE VIEW w AS SELECT 1");
        try (Place place = Places.open(source)) {
            TableDefinition every = place.define(TableName.of("every"));
            assertThat(types(every))
                    .isEqualTo(
                            """
                    id: BIGINT
                    b: BOOLEAN
                    i1: SMALLINT
                    i1u: SMALLINT
                    i2: SMALLINT
                    i2u: INTEGER
                    i3: INTEGER
                    i8: BIGINT
                    i8u: DECIMAL(20,0)
                    n: DECIMAL(12,2)
                    f: REAL
                    d: DOUBLE PRECISION
                    c: CHARACTER(5)
                    v: CHARACTER VARYING(9)
                    t: CHARACTER LARGE OBJECT
                    bi: BINARY(4)
                    vb: BINARY VARYING(9)
                    bl: BINARY LARGE OBJECT
                    da: DATE
                    ti: TIME(3)
                    dt: TIMESTAMP(6)
                    ts: TIMESTAMP(3) WITH TIME ZONE
                    y: CHARACTER(4)
                    e: CHARACTER VARYING(3)
                    s: CHARACTER LARGE OBJECT
                    j: JSON
                    u: UUID
                    bt: BOOLEAN
                    """);
            assertThat(every.comment()).isEqualTo("all of them");
            assertThat(every.column("c").orElseThrow().defaultValue()).contains(new ColumnDefault.Literal("a'b"));
            assertThat(every.column("id").orElseThrow().identity().orElseThrow().next())
                    .isEqualTo(3);
            assertThat(every.checks()).hasSize(1);
            assertThat(every.indexes()).hasSize(1);
            assertThat(place.leftBehind()).extracting(LeftBehind::name).containsExactly("w", "every.s", "every.y");
        }
        moveEverywhere(source);
    }

    @Test
    void everyTypeOfH2() throws Exception {
        Path file = folder.resolve("every");
        try (Connection connection = DriverManager.getConnection("jdbc:h2:" + file, "sa", "");
                Statement statement = connection.createStatement()) {
            statement.execute(
                    "CREATE TABLE \"every\" (\"id\" BIGINT GENERATED ALWAYS AS IDENTITY PRIMARY KEY, \"b\" BOOLEAN,"
                            + " \"i1\" TINYINT, \"i2\" SMALLINT, \"i4\" INTEGER, \"i8\" BIGINT, \"n\" NUMERIC(30, 10), \"df\""
                            + " DECFLOAT(34), \"f4\" REAL, \"f8\" DOUBLE PRECISION, \"c\" CHARACTER(5), \"v\" VARCHAR(9), \"vi\""
                            + " VARCHAR_IGNORECASE(9), \"t\" CLOB, \"bi\" BINARY(4), \"vb\" VARBINARY(9), \"bl\" BLOB, \"da\" DATE,"
                            + " \"ti\" TIME(6), \"tiz\" TIME(0) WITH TIME ZONE, \"ts\" TIMESTAMP(6), \"tz\" TIMESTAMP(6) WITH TIME"
                            + " ZONE, \"iv\" INTERVAL DAY TO SECOND, \"u\" UUID, \"j\" JSON, \"e\" ENUM('wet', 'dry'), \"g\""
                            + " GEOMETRY, \"a\" INTEGER ARRAY, \"x\" INTEGER GENERATED ALWAYS AS (\"i4\" + 1))");
            statement.execute(
                    "INSERT INTO \"every\" (\"b\", \"i1\", \"i2\", \"i4\", \"i8\", \"n\", \"df\", \"f4\", \"f8\","
                            + " \"c\", \"v\", \"vi\", \"t\", \"bi\", \"vb\", \"bl\", \"da\", \"ti\", \"tiz\", \"ts\", \"tz\", \"iv\","
                            + " \"u\", \"j\", \"e\", \"g\", \"a\") VALUES (TRUE, -128, -32768, 7, 9223372036854775807,"
                            + " 12345678901234567890.0123456789, 1.50, 0.1, 1E-300, 'ab', 'it''s', 'Aa', 'long', X'00010203',"
                            + " X'ff', X'00', DATE '2031-04-09', TIME '07:30:00.25', TIME WITH TIME ZONE '07:30:00+02',"
                            + " TIMESTAMP '2031-04-09 07:30:00.5', TIMESTAMP WITH TIME ZONE '2031-04-09 07:30:00+05:30', INTERVAL"
                            + " '1 2:3:4' DAY TO SECOND, '00417000-0000-4000-8000-000000000417', JSON '{\"a\": 1.50}', 'wet',"
                            + " 'POINT (1 2)', ARRAY[1, 2])");
            statement.execute("INSERT INTO \"every\" (\"b\") VALUES (NULL)");
        }
        try (Place place = Places.open(file + ".mv.db")) {
            assertThat(place.leftBehind())
                    .extracting(LeftBehind::name)
                    .containsExactly("every.a", "every.g", "every.iv", "every.tiz");
        }
        moveEverywhere(file + ".mv.db");
    }

    @Test
    void everyTypeOfSqlite() throws Exception {
        Path file = folder.resolve("every.sqlite");
        Databases.run(
                "jdbc:sqlite:" + file,
                "CREATE TABLE every (id INTEGER PRIMARY KEY, b BOOLEAN, i1 TINYINT, i2 SMALLINT, i4 INT4, i8 BIGINT, n"
                        + " DECIMAL(12,2), big DECIMAL_TEXT(30,10), f4 FLOAT4, f8 DOUBLE, c CHARACTER(5), v VARCHAR(9), t"
                        + " TEXT, bi BINARY(4), bl BLOB, da DATE, ti TIME, ts TIMESTAMP, tz TIMESTAMPTZ, u UUID_TEXT, j"
                        + " JSON_TEXT, x XML_TEXT, iv DURATION_TEXT, odd WHATEVER, bare)",
                "INSERT INTO every VALUES (1, 1, -128, 7, 7, 9223372036854775807, 12.50,"
                        + " '12345678901234567890.0123456789', 0.5, 0.1, 'ab', 'it''s', 'long', x'00010203', x'ff',"
                        + " '2031-04-09', '07:30:00.25', '2031-04-09 07:30:00.5', '2031-04-09 07:30:00Z',"
                        + " '00417000-0000-4000-8000-000000000417', '{\"a\": 1.50}', '<a/>', 'P1DT2H', 4.25, 'plain')",
                "INSERT INTO every (id) VALUES (2)");
        moveEverywhere(file.toString());
    }
}
