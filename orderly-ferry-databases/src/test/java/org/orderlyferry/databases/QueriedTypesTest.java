package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.orderlyferry.testkit.servers.Databases.run;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.OutOfRange;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;

/** A query gives the very values that its table has, whatever their types; and what is special about arrays. */
class QueriedTypesTest {

    private static final Map<TestSystem, String[]> BEDS = Map.of(
            TestSystem.POSTGRESQL,
            new String[] {
                "create type colour as enum ('red', 'blue')",
                "create table bed (id int primary key, small smallint, large bigint, weight numeric(8,3), ratio real, part"
                        + " double precision, price money, open boolean, day date, clock time, seen timestamp, zoned"
                        + " timestamptz, stay interval, code char(4), name varchar(9), note text, photo bytea, tag uuid, doc"
                        + " json, docs json[], hue colour, marks text[], counts int[][], days date[], bits bit(3))",
                "insert into bed values (1, -1, 9223372036854775807, 1.5, 0.1, 0.1, -1234.5, true, '0044-03-15 BC', '07:30',"
                        + " '2031-04-09 07:30:00.123456', '2031-04-09 07:30+02', '1 mon', 'a', 'b', 'c', '\\x00ff',"
                        + " 'a0eebc99-9c0b-4ef8-bb6d-6bb9bd380a11', '{\"a\" : 1}', array['[1,2]', '{\"a\" : [1]}']::json[],"
                        + " 'red', array['a\"', null, 'b\\'], '{{1,2},{3,4}}', '{2031-04-09}', '101')",
                "insert into bed (id) values (2)"
            },
            TestSystem.MARIADB,
            new String[] {
                "create table bed (id int primary key, tiny tinyint(1), flag bit(1), bits bit(9), small smallint unsigned,"
                        + " large bigint unsigned, weight decimal(8,3), ratio float, part double, day date, clock time(3),"
                        + " seen datetime(6), zoned timestamp(3) null, made year, code char(4), name varchar(9), note"
                        + " longtext, photo varbinary(9), tag uuid, hue enum('red','blue'), marks set('a','b'), net inet6)",
                "insert into bed values (1, 7, 1, b'100000001', 65535, 18446744073709551615, 1.5, 0.1, 0.1, '1000-01-01',"
                        + " '07:30:00.250', '9999-12-31 23:59:59.999999', '2031-04-09 07:30:00.250', 1901, 'a', 'Möhre',"
                        + " 'c', x'00ff', 'a0eebc99-9c0b-4ef8-bb6d-6bb9bd380a11', 'red', 'a,b', '::1')",
                "insert into bed (id) values (2)"
            },
            TestSystem.H2,
            new String[] {
                "create table \"bed\" (id int primary key, tiny tinyint, large bigint, weight numeric(8,3), free decfloat,"
                        + " ratio real, open boolean, planted date, clock time(3), seen timestamp(9), zoned timestamp with time"
                        + " zone, stay interval day to second, code char(4), name varchar(9), note clob, photo varbinary(9),"
                        + " tag uuid, doc json, hue enum('red', 'blue'), counts int array)",
                "insert into \"bed\" values (1, 7, 9223372036854775807, 1.5, 1.50, 0.1, true, '1000-01-01', '07:30:00.250',"
                        + " '2031-04-09 07:30:00.123456789', '2031-04-09 07:30:00+02', interval '1 02:03:04' day to second,"
                        + " 'a', 'Möhre', 'c', x'00ff', 'a0eebc99-9c0b-4ef8-bb6d-6bb9bd380a11', json '{\"a\":1}', 'red',"
                        + " array[1, 2])",
                "insert into \"bed\" (id) values (2)"
            },
            TestSystem.SQLITE,
            new String[] {
                "create table bed (id integer primary key, weight real, name text, photo blob)",
                "insert into bed values (1, 0.1, 'Möhre', x'00ff'), (2, null, null, null)"
            });

    @TempDir
    private Path folder;

    @ParameterizedTest
    @EnumSource(TestSystem.class)
    void aQueryOfAllGivesWhatTheTableHas(TestSystem system) throws Exception {
        String url = system.fresh(folder);
        run(url, BEDS.get(system));
        try (Place source = Places.open(url)) {
            Export.from(source).to(folder.resolve("table"));
            Export.from(source)
                    .query(
                            "bed",
                            "select * from \"bed\" order by id;".replace("\"", system == TestSystem.H2 ? "\"" : ""))
                    .to(folder.resolve("query"));
        }
        assertThat(folder.resolve("query/data/bed.csv")).hasSameTextualContentAs(folder.resolve("table/data/bed.csv"));
    }

    @ParameterizedTest
    @EnumSource(
            value = TestSystem.class,
            names = {"POSTGRESQL", "MARIADB"})
    void aQuerysRecordsComeInItsOrder(TestSystem system) throws Exception {
        String url = system.fresh(folder);
        run(
                url,
                "create table bed (id int primary key, rank int, planted date, weight decimal(8,2))",
                "insert into bed values (1, 3, '2031-04-09', 1.5), (2, 9, '2031-04-09', 1.5), (3, 5, '2031-04-09', 1.5)");
        String all = "select id, planted, weight from bed order by rank desc";
        try (Place source = Places.open(url)) {
            Export.from(source)
                    .query("all", all + ";")
                    .query("two", all + " limit 2")
                    .query("of", "select id, planted, weight from (" + all + " limit 2) b")
                    .to(folder.resolve("set"));
        }
        assertThat(folder.resolve("set/data/all.csv"))
                .hasContent("id,planted,weight\n2,2031-04-09,1.50\n3,2031-04-09,1.50\n1,2031-04-09,1.50\n");
        assertThat(folder.resolve("set/data/two.csv"))
                .hasContent("id,planted,weight\n2,2031-04-09,1.50\n3,2031-04-09,1.50\n");
    }

    @Test
    void arraysOfDocumentsComeBackAsTheyWere() throws Exception {
        String url = TestSystem.POSTGRESQL.fresh(folder);
        String other = TestSystem.POSTGRESQL.fresh(folder);
        run(
                url,
                "create table bed (id int primary key, docs json[], net inet[])",
                "insert into bed values (1, array['[1,2]', '[3,4]']::json[], array['10.0.0.1']::inet[]),"
                        + " (2, array['null', null, '{\"a\" : [1]}']::json[], array['10.0.0.0/8']::inet[])");
        try (Place source = Places.open(url);
                TargetPlace target = Places.openTarget(other)) {
            Export.from(source).to(folder.resolve("set"));
            try (Place set = Places.open(folder.resolve("set"))) {
                Load.from(set).into(target);
            }
        }
        String all = "select string_agg(docs::text || net::text, ' ' order by id) from bed";
        assertThat(value(other, all)).isEqualTo(value(url, all));
    }

    private static String value(String url, String sql) throws Exception {
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement();
                var row = statement.executeQuery(sql)) {
            row.next();
            return row.getString(1);
        }
    }

    @Test
    void anArrayThatDoesntCountFromOneIsToldAndNotMoved() throws Exception {
        String url = TestSystem.POSTGRESQL.fresh(folder);
        run(
                url,
                "create table bed (id int primary key, counts int[])",
                "insert into bed values (1, '{1,2}'), (2, '[0:1]={1,2}'), (3, '[1:2][0:0]={{1},{2}}')");
        try (Place source = Places.open(url)) {
            assertThatThrownBy(() -> Export.from(source).to(folder.resolve("no")))
                    .isInstanceOf(BadValueException.class)
                    .hasMessageContaining("column counts: '[0:1]'")
                    .hasMessageContaining("doesn't count from 1");
        }
        OpenOptions asNull = OpenOptions.builder().outOfRange(OutOfRange.NULL).build();
        try (Place source = Places.open(PlaceAddress.of(url), asNull)) {
            Export.from(source).to(folder.resolve("set"));
        }
        assertThat(folder.resolve("set/data/bed.csv")).hasContent("id,counts\n1,\"[1,2]\"\n2,\n3,\n");
    }
}
