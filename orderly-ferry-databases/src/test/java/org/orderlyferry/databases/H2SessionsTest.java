package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TableChoice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;

/** H2 as others than its administrator see it, and in another schema than its first. */
class H2SessionsTest {

    @TempDir
    private Path folder;

    private String database(String name, String... statements) throws Exception {
        String url = "jdbc:h2:" + folder.resolve(name);
        Databases.run(url, statements);
        return url;
    }

    @Test
    void whoIsNoAdministratorReadsWhatHeMay() throws Exception {
        String url = database(
                "shared",
                "create table bed (id int primary key, soil varchar(9))",
                "insert into bed values (1, 'loam')",
                "create table hidden (id int primary key)",
                "create user reader password 'r'",
                "grant select on bed to reader",
                "create user writer password 'w'",
                "create schema own authorization writer");
        Path set = folder.resolve("set");
        try (Place place = Places.open(url + ";USER=reader;PASSWORD=r")) {
            Export.from(place).to(set);
        }
        try (Place kept = Places.open(set)) {
            assertThat(kept.tables()).containsExactly(TableName.of("BED"));
            assertThat(kept.leftBehind()).extracting(LeftBehind::name).contains("HIDDEN");
            String writer = url + ";USER=writer;PASSWORD=w;SCHEMA=OWN";
            try (TargetPlace target = Places.openTarget(writer)) {
                Load.from(kept).into(target);
            }
            try (Place target = Places.open(writer)) {
                assertThat(target.tables()).contains(TableName.of("BED"));
                assertThat(Reconcile.between(kept, target)
                                .tables("BED")
                                .compare()
                                .isEqual())
                        .isTrue();
            }
        }
        assertThatThrownBy(() -> Places.open(url + ";USER=reader;PASSWORD=r;TRACE_LEVEL_FILE=0"))
                .hasMessageContaining("Admin rights are required");
    }

    /** H2 itself goes back to what it held before. */
    @ParameterizedTest
    @ValueSource(doubles = {0.3, 0.6, 0.9, 0.99})
    void aFileThatIsCutOffIsNotTakenForAnOlderOne(double part) throws Exception {
        database(
                "cut",
                "create table bed (id int primary key, soil varchar(99))",
                "insert into bed select x, repeat('loam ', 9) from system_range(1, 20000)",
                "shutdown");
        byte[] whole = Files.readAllBytes(folder.resolve("cut.mv.db"));
        try (Place place = Places.open(folder.resolve("cut.mv.db"))) {
            assertThat(place.count(TableName.of("BED"))).isEqualTo(20_000);
        }
        Path cut = Files.write(folder.resolve("less.mv.db"), Arrays.copyOf(whole, (int) (whole.length * part)));
        assertThatThrownBy(() -> Places.open(cut)).hasMessageContaining("the file is cut off");
    }

    /** What has no schema in a name is the session's, for definitions as for statements. */
    @ParameterizedTest
    @EnumSource(LoadMode.class)
    void theSessionsSchemaIsTheOneThatNeedsNoName(LoadMode mode) throws Exception {
        String source = database(
                "source",
                "create schema own",
                "create table bed (id int primary key, soil varchar(9))",
                "insert into bed values (1, 'not this')",
                "create table own.bed (id int primary key, grown date, up int, constraint it references own.bed)"
                        .replace("constraint it", "constraint it foreign key (up)"),
                "create index own.by_day on own.bed (grown desc)",
                "insert into own.bed values (5, date '2031-02-03', 5), (6, null, 5)");
        String target = database(
                "target",
                "create schema own",
                "create table bed (id int primary key, soil varchar(9))",
                "insert into bed values (5, 'theirs')");
        if (mode != LoadMode.CREATE) {
            Databases.run(target, "create table own.bed (id int primary key, grown date, up int references own.bed)");
        }
        try (Place from = Places.open(source + ";SCHEMA=OWN")) {
            assertThat(from.tables()).containsExactly(TableName.of("BED"), new TableName("PUBLIC", "BED"));
            assertThat(TableChoice.of(from, List.of("BED"))).containsExactly(TableName.of("BED"));
            assertThat(TableChoice.one(from, "bed")).isEqualTo(TableName.of("BED"));
            assertThat(TableChoice.of(from, List.of("B*"))).hasSize(2);
            assertThat(TableChoice.one(from, "public.bed")).isEqualTo(new TableName("PUBLIC", "BED"));
            assertThat(from.define(TableName.of("BED")).columnNames()).containsExactly("ID", "GROWN", "UP");
            try (TargetPlace to = Places.openTarget(target + ";SCHEMA=OWN")) {
                Load.from(from).tables("BED").mode(mode).into(to);
            }
        }
        assertThat(Databases.rows(target, "select * from own.bed order by id"))
                .containsExactly("5 2031-02-03 5", "6 null 5");
        assertThat(Databases.rows(target, "select * from public.bed")).containsExactly("5 theirs");
        // nothing of ours is left, in either schema
        assertThat(Databases.rows(
                        target,
                        "select table_schema, table_name from information_schema.tables where table_schema <>"
                                + " 'INFORMATION_SCHEMA'"
                                + " order by 1"))
                .containsExactly("OWN BED", "PUBLIC BED");
        try (Place from = Places.open(source + ";INIT=SET SCHEMA OWN");
                Place to = Places.open(target + ";SCHEMA=OWN")) {
            assertThat(Reconcile.between(from, to).tables("BED").compare().isEqual())
                    .isTrue();
        }
    }

    @Test
    void aNameWithoutASchemaMayBeThatOfSeveralWhereNoneIsTheSessions() throws Exception {
        String url = database(
                "several",
                "create schema a",
                "create schema b",
                "create table a.bed (id int)",
                "create table b.bed (id int)");
        try (Place place = Places.open(url)) {
            assertThat(TableChoice.of(place, List.of("bed"))).hasSize(2);
            assertThatThrownBy(() -> TableChoice.one(place, "BED"))
                    .isInstanceOf(UsageException.class)
                    .hasMessageContaining("fits 2 tables");
        }
    }
}
