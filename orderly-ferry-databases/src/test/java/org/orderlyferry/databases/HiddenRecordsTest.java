package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;
import static org.orderlyferry.testkit.servers.Databases.run;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.orderlyferry.exportset.ExportSet;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.testkit.servers.LocalMaria;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.FailedTable;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** What a server would keep from a reader without a word, and tables in which there is nothing to read. */
class HiddenRecordsTest {

    @TempDir
    private Path folder;

    @Test
    void recordsThatAPolicyHidesAreToldOfAndNotLost() throws Exception {
        String url = TestSystem.POSTGRESQL.fresh(folder);
        run(
                url,
                "create table bed (id int primary key, keeper text)",
                "insert into bed values (1, 'iris'), (2, 'basil')",
                "alter table bed enable row level security",
                "create policy own_beds on bed using (keeper = 'iris')",
                "create table plant (id int primary key)",
                "insert into plant values (1)",
                "do $$ begin create role gardener login; exception when duplicate_object then null; end $$",
                "grant select on bed, plant to gardener");
        String asGardener = url.replaceAll("user=[^&]*", "user=gardener");
        Path set = folder.resolve("set");
        TransferResult result;
        try (Place source = Places.open(asGardener)) {
            result = Export.from(source).to(set);
        }
        assertThat(result.failed())
                .singleElement()
                .extracting(FailedTable::table)
                .isEqualTo(TableName.of("bed"));
        assertThat(result.failed().get(0).reason()).contains("row-level security");
        assertThat(result.rows()).isOne();
        try (Place source = Places.open(url)) {
            assertThat(source.count(TableName.of("bed"))).isEqualTo(2);
        }
    }

    @ParameterizedTest
    @EnumSource(
            value = TestSystem.class,
            names = {"H2", "POSTGRESQL"})
    void aTableWithoutColumnsIsLeftBehindAndTheOthersGo(TestSystem system) throws Exception {
        String url = system.fresh(folder);
        run(url, "create table \"empty\" ()", "create table \"bed\" (\"id\" int)", "insert into \"bed\" values (1)");
        Path set = folder.resolve("set");
        TransferResult result;
        try (Place source = Places.open(url)) {
            assertThat(source.tables()).containsExactly(TableName.of("bed"));
            result = Export.from(source).to(set);
        }
        assertThat(result.leftBehind()).extracting(LeftBehind::name).contains("empty");
        try (Place made = ExportSet.open(set)) {
            assertThat(made.tables()).containsExactly(TableName.of("bed"));
        }
    }

    /** What a query of such a table gives, its heirs give as well. */
    @Test
    void tablesOfTablesAreToldOf() throws Exception {
        String url = TestSystem.POSTGRESQL.fresh(folder);
        run(
                url,
                "create table plant (id int primary key)",
                "create table tree (height int) inherits (plant)",
                "insert into plant values (1)",
                "insert into tree values (2, 20)",
                "create table visit (day date) partition by range (day)",
                "create table visit_31 partition of visit default",
                "insert into visit select date '2031-01-01' + g from generate_series(1, 900) g");
        try (Place source = Places.open(url)) {
            assertThat(source.count(TableName.of("plant"))).isEqualTo(2);
            assertThat(source.leftBehind())
                    .extracting(LeftBehind::kind, LeftBehind::name)
                    .contains(tuple("inheritance", "tree"), tuple("partitioning", "visit"));
            assertThat(source.bytes(TableName.of("visit")).orElseThrow()).isPositive();
        }
    }

    /** A server of its own, whose users have rights: it forgets them for all that come after. */
    @Test
    void columnsThatAUserMayNotSeeAreToldOf() throws Exception {
        try (LocalMaria server = LocalMaria.start()) {
            // everybody may do everything in the one that is there from the start
            run(server.url("test"), "create database garden");
            String url = server.url("garden");
            run(
                    url,
                    "create table bed (id int primary key, keeper varchar(9), wage int)",
                    "insert into bed values (1, 'iris', 7)",
                    "create table plant (id int primary key)",
                    "update mysql.global_priv set priv = json_set(priv, '$.plugin', 'mysql_native_password',"
                            + " '$.authentication_string', '') where user = 'root'",
                    "flush privileges",
                    "create user gardener@localhost",
                    "grant select (id, keeper) on garden.bed to gardener@localhost",
                    "grant select on garden.plant to gardener@localhost",
                    "grant select (id) on garden.plant to gardener@localhost");
            try (Place source = Places.open(url.replace("user=root", "user=gardener"))) {
                assertThat(source.define(TableName.of("bed")).columnNames()).containsExactly("id", "keeper");
                // nor does the server list its events, since it was started without any
                assertThat(source.leftBehind())
                        .extracting(LeftBehind::toString)
                        .filteredOn(l -> l.contains("columns"))
                        .singleElement()
                        .asString()
                        .contains("bed", "id, keeper");
            }
        }
    }

    /** MariaDB calls such a table by another name than its other tables. */
    @Test
    void tablesWithAHistoryAreTables() throws Exception {
        String url = TestSystem.MARIADB.fresh(folder);
        run(
                url,
                "create table bed (id int primary key, keeper varchar(9) invisible) with system versioning",
                "create table pot (id int primary key, size int, since timestamp(6) generated always as row start,"
                        + " until timestamp(6) generated always as row end, period for system_time (since, until))"
                        + " with system versioning",
                "create table lease (id int, since date, until date, period for term (since, until),"
                        + " primary key (id, term without overlaps))",
                "insert into bed (id, keeper) values (1, 'iris')",
                "update bed set keeper = 'basil'",
                "insert into pot (id, size) values (1, 5)",
                "update pot set size = 6");
        Path set = folder.resolve("set");
        try (Place source = Places.open(url)) {
            TransferResult result = Export.from(source).to(set);
            assertThat(result.rows()).isEqualTo(2);
            assertThat(source.define(TableName.of("pot"))
                            .primaryKey()
                            .orElseThrow()
                            .columns())
                    .containsExactly("id");
            assertThat(result.leftBehind())
                    .extracting(LeftBehind::kind, LeftBehind::name)
                    .contains(
                            tuple("versioning", "bed"),
                            tuple("versioning", "pot"),
                            tuple("invisibility", "bed.keeper"),
                            tuple("period", "lease.term"));
        }
        // back where they came from, and somewhere else
        for (String target : new String[] {url, TestSystem.SQLITE.fresh(folder)}) {
            try (Place source = Places.open(set);
                    TargetPlace into = Places.openTarget(target)) {
                LoadMode mode = target.equals(url) ? LoadMode.MERGE : LoadMode.CREATE;
                assertThat(Load.from(source).mode(mode).into(into).rows()).isEqualTo(2);
            }
        }
    }

    @Test
    void valuesThatStandOutsideOfTheirTablesAreToldOf() throws Exception {
        String url = TestSystem.POSTGRESQL.fresh(folder);
        run(url, "create table sheet (no int primary key, scan oid)", "insert into sheet values (1, null)");
        try (Place source = Places.open(url)) {
            assertThat(source.leftBehind()).isEmpty();
        }
        run(url, "update sheet set scan = lo_from_bytea(0, '\\x0102')");
        try (Place source = Places.open(url)) {
            assertThat(source.leftBehind())
                    .extracting(LeftBehind::kind, LeftBehind::name)
                    .containsExactly(tuple("large objects", "(all)"), tuple("large objects", "sheet.scan"));
        }
        // what is told to be done does it
        Path set = folder.resolve("scans");
        try (Place source = Places.open(url)) {
            Export.from(source)
                    .query("scan", "select no, lo_get(scan) as scan from sheet")
                    .to(set);
        }
        assertThat(Files.readString(set.resolve("data/scan.csv"))).contains("1,AQI=");
    }
}
