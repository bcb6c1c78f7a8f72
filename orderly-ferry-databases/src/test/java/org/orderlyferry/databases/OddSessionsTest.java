package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.orderlyferry.testkit.servers.Databases.run;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;

/** Servers, roles and addresses that set sessions otherwise than usual: what is read and written is the same. */
class OddSessionsTest {

    @TempDir
    private Path folder;

    /** The files of records, and of definitions, of what is exported. */
    private Map<String, String> exported(String url, String name) throws Exception {
        Path set = folder.resolve(name);
        try (Place source = Places.open(url)) {
            Export.from(source).to(set);
        }
        Map<String, String> all = files(set.resolve("definitions"));
        all.putAll(files(set.resolve("data")));
        return all;
    }

    private static Map<String, String> files(Path within) throws Exception {
        Map<String, String> all = new TreeMap<>();
        try (Stream<Path> files = Files.list(within)) {
            for (Path file : files.toList()) {
                all.put(file.getFileName().toString(), Files.readString(file));
            }
        }
        return all;
    }

    private static Map<String, String> records(Map<String, String> files) {
        Map<String, String> records = new TreeMap<>(files);
        records.keySet().removeIf(name -> !name.endsWith(".csv"));
        return records;
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "quote_all_identifiers=on",
                "bytea_output=escape -c DateStyle=German -c IntervalStyle=sql_standard -c extra_float_digits=-15"
                        + " -c TimeZone=Asia/Tokyo -c standard_conforming_strings=off",
                "array_nulls=off -c xmloption=document -c default_transaction_isolation=serializable"
                        + " -c statement_timeout=1h -c idle_session_timeout=1h"
            })
    void postgresIsReadAndWrittenAlikeHoweverItsSessionsAreSet(String setting) throws Exception {
        String url = TestSystem.POSTGRESQL.fresh(folder);
        run(
                url,
                "create table bed (id int primary key, name text, photo bytea, photos bytea[], planted date, seen"
                        + " timestamptz, stay interval, ratio double precision, note xml, marks text[], price money)",
                "insert into bed values (1, 'back\\slash', '\\x00ff5c27', array['\\x00ff'::bytea], '0044-03-15 BC',"
                        + " '2031-04-09 07:30:00.25+02', '1 year 2 mons -3 days 04:05:06.7', 0.1, '<a/><b/>',"
                        + " array['x', null], 12.50)");
        Map<String, String> usual = exported(url, "usual");
        String options = "&options=-c%20" + setting.replace(" ", "%20");
        assertThat(exported(url + options, "odd")).isEqualTo(usual);
        String target = TestSystem.POSTGRESQL.fresh(folder);
        try (Place set = Places.open(folder.resolve("usual"));
                TargetPlace into = Places.openTarget(target + options)) {
            Load.from(set).into(into);
        }
        assertThat(exported(target, "there")).isEqualTo(usual);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "sql_select_limit=2,group_concat_max_len=4",
                "sql_mode='ANSI_QUOTES,PAD_CHAR_TO_FULL_LENGTH',time_zone='+09:00',tx_isolation='READ-UNCOMMITTED'",
                "character_set_results='latin1',character_set_client='latin1'",
                "sql_safe_updates=1,max_join_size=1,sql_big_selects=0,max_error_count=0,sql_notes=0,completion_type=1",
                "innodb_strict_mode=0,default_storage_engine=MyISAM,check_constraint_checks=0,unique_checks=0,"
                        + "system_versioning_asof='2020-01-01 00:00:00',idle_transaction_timeout=1,max_statement_time=60"
            })
    void mariaIsReadAndWrittenAlikeHoweverItsSessionsAreSet(String setting) throws Exception {
        String url = TestSystem.MARIADB.fresh(folder);
        run(
                url,
                "create table bed (id int primary key, code char(5), name varchar(40) unique, seen timestamp(3) null,"
                        + " up int references bed (id), photo varbinary(9)) with system versioning",
                "insert into bed values (1, 'a', 'Möhre 😀', '2031-04-09 07:30:00.250', null, x'00ff'),"
                        + " (2, 'b', 'b\\\\', null, 1, null), (3, 'c', '', null, 1, null), (4, 'd', ' d', null, 2, null)",
                "create table plant (id int primary key)",
                "insert into plant values (1), (2), (3)",
                "create table seed (id int primary key)");
        Map<String, String> usual = exported(url, "usual");
        String odd = url + "&sessionVariables=" + setting;
        assertThat(exported(odd, "odd")).isEqualTo(usual);
        String target = TestSystem.MARIADB.fresh(folder);
        try (Place set = Places.open(folder.resolve("usual"));
                TargetPlace into = Places.openTarget(target + "&sessionVariables=" + setting)) {
            Load.from(set).into(into);
        }
        // but not its history
        assertThat(records(exported(target, "there"))).isEqualTo(records(usual));
    }

    @Test
    void h2ShowsItsDefinitionsWhateverTheAddressAsksFor() throws Exception {
        String url = TestSystem.H2.fresh(folder);
        run(url, "create table bed (id int primary key, name varchar(9), stay interval day to second)");
        Map<String, String> usual = exported(url, "usual");
        assertThat(exported(url + ";OLD_INFORMATION_SCHEMA=TRUE", "odd")).isEqualTo(usual);
    }

    @Test
    void aModeInWhichTextsAreLostIsntWrittenTo() throws Exception {
        String url = TestSystem.H2.fresh(folder) + ";MODE=Oracle";
        run(url, "create table bed (id int primary key)");
        try (Place source = Places.open(url)) {
            assertThat(source.tables()).containsExactly(TableName.of("BED"));
        }
        assertThatThrownBy(() -> Places.openTarget(url).close())
                .isInstanceOf(PlaceException.class)
                .hasMessageContaining("takes an empty text for none");
    }

    @Test
    void aCurrencysSignsAreNoPartOfAnAmount() throws Exception {
        String url = TestSystem.POSTGRESQL.fresh(folder);
        run(
                url,
                "create table sale (id int primary key, price money, parts money[])",
                "insert into sale values (1, '-1234.56', array[1, 2.5]::money[])");
        exported(url, "set");
        String target = TestSystem.SQLITE.fresh(folder);
        try (Place set = Places.open(folder.resolve("set"));
                TargetPlace into = Places.openTarget(target)) {
            Load.from(set).into(into);
        }
        assertThat(records(exported(target, "there")))
                .containsEntry("sale.csv", "id,price,parts\r\n1,-1234.56,\"[1.00,2.50]\"\r\n");
    }
}
