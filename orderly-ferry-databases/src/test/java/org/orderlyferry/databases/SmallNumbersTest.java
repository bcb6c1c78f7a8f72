package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.orderlyferry.testkit.servers.Databases.run;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** MariaDB's tinyint(1) is BOOLEAN to many, and a small number to some. */
class SmallNumbersTest {

    private static final TableName BED = TableName.of("bed");

    @TempDir
    private Path folder;

    private String url;

    @BeforeEach
    void twoBeds() throws Exception {
        url = TestSystem.MARIADB.fresh(folder);
        run(
                url,
                "create table bed (id int primary key, state tinyint(1) default 1, open tinyint(1) default 1)",
                "insert into bed values (1, 5, 1), (2, -1, 0), (3, null, null)");
    }

    @Test
    void whatHoldsOtherNumbersIsCarriedAsNumbersAndThatIsTold() throws Exception {
        Path set = folder.resolve("set");
        TransferResult result;
        try (Place source = Places.open(url)) {
            assertThat(source.define(BED).columns())
                    .extracting(c -> c.type())
                    .containsExactly(LogicalType.INTEGER, LogicalType.SMALLINT, LogicalType.BOOLEAN);
            result = Export.from(source).to(set);
        }
        assertThat(result.leftBehind()).extracting(LeftBehind::name).containsExactly("bed.state");
        assertThat(set.resolve("data/bed.csv")).hasContent("id,state,open\n1,5,true\n2,-1,false\n3,,\n");
        String other = TestSystem.POSTGRESQL.fresh(folder);
        try (Place from = Places.open(set);
                TargetPlace into = Places.openTarget(other)) {
            Load.from(from).into(into);
        }
        try (Place there = Places.open(other)) {
            Export.from(there).to(folder.resolve("there"));
        }
        assertThat(folder.resolve("there/data/bed.csv")).hasSameTextualContentAs(set.resolve("data/bed.csv"));
    }

    @Test
    void theSameTableTakesThemBack() throws Exception {
        Path set = folder.resolve("set");
        try (Place source = Places.open(url)) {
            Export.from(source).to(set);
        }
        run(url, "delete from bed where id = 1", "update bed set state = 7 where id = 2");
        try (Place from = Places.open(set);
                TargetPlace into = Places.openTarget(url)) {
            Load.from(from).mode(LoadMode.MERGE).into(into);
        }
        try (Place source = Places.open(url)) {
            Export.from(source).to(folder.resolve("again"));
        }
        assertThat(folder.resolve("again/data/bed.csv")).hasSameTextualContentAs(set.resolve("data/bed.csv"));
    }

    @Test
    void aScriptSaysWhereItHasNumbersAndAPersonSaysThatTheyAreMeant() throws Exception {
        Path script = folder.resolve("dump.sql");
        Files.writeString(
                script,
                """
                -- MariaDB dump
                CREATE TABLE `bed` (`id` int(11) NOT NULL, `state` tinyint(1) DEFAULT 1, PRIMARY KEY (`id`)) ENGINE=InnoDB;
                INSERT INTO `bed` VALUES (1,0),(2,1),(3,5),(4,NULL);
                """);
        try (Place dump = Places.open(script)) {
            assertThatThrownBy(() -> Export.from(dump).to(folder.resolve("no")))
                    .isInstanceOf(BadValueException.class)
                    .hasMessageContaining("line 3")
                    .hasMessageContaining("'5' is no truth value");
        }
        OpenOptions numbers = OpenOptions.builder()
                .files(FileSettings.NONE.with("tinyint", "smallint"))
                .build();
        try (Place dump = Places.open(PlaceAddress.of(script), numbers)) {
            Export.from(dump).to(folder.resolve("numbers"));
        }
        assertThat(folder.resolve("numbers/data/bed.csv")).hasContent("id,state\n1,0\n2,1\n3,5\n4,\n");
    }
}
