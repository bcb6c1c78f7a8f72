package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.orderlyferry.testkit.servers.Databases.run;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.testkit.servers.TestSystem;

/** A catalogue may be asked for all tables together: each definition is what it is when it is asked for alone. */
class ManyTablesTest {

    private static final int TABLES = 24;

    @TempDir
    private Path folder;

    private static List<String> statements(TestSystem system) {
        List<String> all = new ArrayList<>();
        for (int i = 0; i < TABLES; i++) {
            String before = "bed_" + (i - 1);
            all.add("create table bed_" + i + " (id int not null, part int not null, name varchar(40) default 'it''s',"
                    + " code varchar(10), height decimal(8,2), up int, up_part int,"
                    + " constraint bed_" + i + "_key primary key (part, id), constraint bed_" + i
                    + "_code unique (code, name), constraint bed_" + i + "_high check (height >= " + i
                    + "), check (id > 0)"
                    // the parts of a key in another order than the columns
                    + (i == 0
                            ? ""
                            : ", constraint bed_" + i + "_up foreign key (up_part, up) references " + before
                                    + " (part, id) on delete cascade")
                    + (i < 2 ? "" : ", foreign key (code, name) references bed_" + (i - 2) + " (code, name)") + ")");
            all.add("create index bed_" + i + "_height on bed_" + i + " (height desc, name)");
        }
        if (system == TestSystem.H2) {
            all.add("create schema other");
            all.add("create table other.bed_1 (id int primary key, mood enum('calm', 'wild') default 'calm', twice int"
                    + " generated always as (id * 2))");
            all.add("comment on table other.bed_1 is 'another one'");
        }
        if (system == TestSystem.POSTGRESQL) {
            all.addAll(List.of(
                    "create schema other",
                    "create type mood as enum ('calm', 'wild')",
                    "create domain height as numeric(8,2) not null check (value > 0)",
                    "create table other.bed_1 (id int generated always as identity (start 5 increment 3) primary key,"
                            + " mood mood default 'calm', twice int generated always as (high * 2) stored, high int,"
                            + " tall height, old serial, note text collate \"C\")",
                    "insert into other.bed_1 (high, tall) values (1, 2), (2, 3)",
                    "create index on other.bed_1 (lower(note), high desc) where high > 1",
                    "create index on other.bed_1 using hash (high)",
                    "comment on table other.bed_1 is 'another one'",
                    "comment on column other.bed_1.high is 'in metres'",
                    "create table other.cut (id int, day date, primary key (id, day)) partition by range (day)",
                    "create table other.cut_one partition of other.cut for values from ('2031-01-01') to ('2032-01-01')",
                    "create view bed_view as select * from bed_1"));
        }
        if (system == TestSystem.MARIADB) {
            all.addAll(List.of(
                    "create table other (id int auto_increment primary key, mood enum('calm', 'wild') default 'calm',"
                            + " twice int as (high * 2) stored, high int comment 'in metres', leaf json, truth tinyint(1),"
                            + " more tinyint(1), note varchar(40) collate utf8mb4_swedish_ci, key (note(9)), fulltext (note))"
                            + " comment 'another one'",
                    "insert into other (truth, more) values (1, 1), (0, 7)",
                    "create table kept (id int, code varchar(9), primary key (id), unique (code)) with system versioning",
                    "create view bed_view as select * from bed_1"));
        }
        return all;
    }

    @ParameterizedTest
    @EnumSource
    void aDefinitionIsTheSameHoweverManyAreAskedFor(TestSystem system) throws Exception {
        String url = system.fresh(folder);
        run(url, statements(system).toArray(String[]::new));
        Map<TableName, TableDefinition> together = new HashMap<>();
        try (Place place = Places.open(url)) {
            for (TableName table : place.tables()) {
                place.define(table);
            }
            // what came first was asked for alone
            place.tables().forEach(t -> together.put(t, place.define(t)));
        }
        assertThat(together).hasSizeGreaterThanOrEqualTo(TABLES);
        for (TableName table : together.keySet()) {
            try (Place place = Places.open(url)) {
                TableDefinition alone = place.define(table);
                assertThat(together.get(table)).isEqualTo(alone);
                if (table.name().equalsIgnoreCase("bed_7") && table.schema().isEmpty()) {
                    assertThat(alone.foreignKeys()).hasSize(2);
                    assertThat(alone.foreignKeys().stream()
                                    .map(k -> k.columns() + " " + k.target() + k.targetColumns()))
                            .map(k -> k.toLowerCase(Locale.ROOT))
                            .containsExactlyInAnyOrder(
                                    "[up_part, up] bed_6[part, id]", "[code, name] bed_5[code, name]");
                    assertThat(alone.checks()).hasSize(2);
                    assertThat(alone.indexes()).hasSize(1);
                    assertThat(alone.uniqueKeys()).hasSize(1);
                }
            }
        }
    }
}
