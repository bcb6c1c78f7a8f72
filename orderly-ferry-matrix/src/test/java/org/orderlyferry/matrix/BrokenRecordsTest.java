package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.testkit.servers.TestSystem;

/** Records that break keys and references of the tables that they come to, where others may go on without them. */
class BrokenRecordsTest extends CrossingCase {

    private static String rejects(Path file) throws Exception {
        return Files.readString(file).replace("\r\n", "\n");
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void recordsOfFilesAreRejectedWithTheirLines(String system) throws Exception {
        String url = TestSystem.of(system).fresh(folder);
        Path beds = Files.createDirectories(folder.resolve("beds-" + system));
        Files.write(beds.resolve("bed.csv"), List.of("id,name", "1,North", "2,South", "3,East"));
        Path rejected = folder.resolve("rejects-" + system + ".csv");
        must(0, "load", beds, url, "--key", "id");
        Path come = Files.createDirectories(folder.resolve("come-" + system));
        Files.write(come.resolve("bed.csv"), List.of("id,name", "3,again", "4,new", "5,twice", "5,\"tw,ice\""));

        assertThat(must(3, "load", come, url, "--onto", "append", "--key", "id").err())
                .contains("table bed ", "id = ");
        assertThat(must(1, "load", come, url, "--onto", "append", "--key", "id", "--rejects", rejected)
                        .out())
                .contains("4 read = 1 written + 3 rejected + 0 left out");
        assertThat(rejects(rejected))
                .contains(
                        ",2,id,3,\"is in a record of the target already, and the key allows one\",\n",
                        ",4,id,5,\"is in 2 records, and the key allows one\",\n",
                        ",5,id,5,\"is in 2 records, and the key allows one\",\n");
        assertThat(must(0, "look", url, "bed", "--samples", "9").out())
                .contains("East")
                .doesNotContain("again");
    }

    /** What the target can't hold isn't there to be referred to. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void recordsThatReferToOneThatIsTooLongGoWithIt(String system) throws Exception {
        TestSystem target = TestSystem.of(system);
        String url = target.fresh(folder);
        run(
                url,
                "create table " + target.quote("bed") + " (" + target.quote("id") + " int primary key, "
                        + target.quote("name") + " varchar(5))",
                "create table " + target.quote("plant") + " (" + target.quote("id") + " int primary key, "
                        + target.quote("bed") + " int, foreign key (" + target.quote("bed") + ") references "
                        + target.quote("bed") + " (" + target.quote("id") + "))");
        Path come = Files.createDirectories(folder.resolve("long-" + system));
        Files.write(come.resolve("bed.csv"), List.of("id,name", "1,North", "2,Southern"));
        Files.write(come.resolve("plant.csv"), List.of("id,bed", "1,1", "2,2"));
        Path rejected = folder.resolve("long-" + system + ".csv");
        assertThat(must(1, "load", come, url, "--onto", "append", "--rejects", rejected)
                        .out())
                .contains("4 read = 2 written + 2 rejected + 0 left out");
        assertThat(rejects(rejected)).contains(",3,name,Southern,", ",3,bed,2,");
    }

    /** A reference to a record that isn't there takes all with it that refers to it in turn. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aCrossingLeavesThemOutAndIsCaughtUp(String system) throws Exception {
        Path source = folder.resolve("loose-" + system + ".sqlite");
        String old = "jdbc:sqlite:" + source;
        run(
                old,
                "create table bed (id integer primary key, within int references bed (id), name varchar(20) not null)",
                "create table plant (no integer primary key, bed int not null references bed (id), code varchar(9))",
                "insert into bed values (1, null, 'North'), (2, 1, 'corner'), (3, 99, 'lost'), (4, 3, 'in lost')",
                "insert into plant values (1, 1, 'a'), (2, 4, 'b'), (3, 2, 'c'), (4, 77, 'd')");
        String url = TestSystem.of(system).fresh(folder);
        Path file = draft("loose-" + system, source, url);
        assertThat(must(1, "check", file, "--values").out())
                .contains("4 records of the source can't be taken, and the crossing allows 0")
                .contains("column within: '99' refers to a record of bed that isn't there");
        edit(file, "rejects-allowed: 0", "rejects-allowed: 9", "follow-deletes: false", "follow-deletes: true");
        assertThat(must(0, "check", file, "--values").out())
                .contains("It can begin, without the records that would be rejected");
        assertThat(must(0, "run", file).out())
                .contains("4 rows in the set, 4 rejected", "4 records were rejected, with the reason in ")
                .contains("proved");

        run(
                old,
                "insert into bed values (7, 2, 'new'), (8, 98, 'lost too')",
                "insert into plant values (9, 8, 'z'), (10, 7, 'y')",
                "update plant set code = 'other' where no in (1, 4)",
                "delete from plant where no = 3");
        assertThat(must(0, "run", "--catch-up", file).out())
                .contains("1 row taken out of the target")
                .contains("proved");
        Path now = folder.resolve("now-" + system);
        must(0, "export", url, now, "--format", "csv");
        assertThat(Files.readString(now.resolve("data/bed.csv")).replace("\r\n", "\n"))
                .isEqualTo("id,within,name\n1,,North\n2,1,corner\n7,2,new\n");
        assertThat(Files.readString(now.resolve("data/plant.csv")).replace("\r\n", "\n"))
                .isEqualTo("no,bed,code\n1,1,other\n10,7,y\n");
        must(0, "undo", file, "--accept-changes");
        assertThat(tables(url)).isEmpty();
    }

    /** What a target that is there can't hold stays out of the set, and out of what is caught up. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aCrossingLeavesOutWhatTheTargetRefuses(String system) throws Exception {
        Path source = folder.resolve("unfit-" + system + ".sqlite");
        String old = "jdbc:sqlite:" + source;
        run(
                old,
                "create table bed (id integer primary key, name varchar(60), plants int)",
                "insert into bed values (1, 'North', 3), (2, 'a name that is too long', 1), (3, 'East', 0), (4, 'West', null)");
        TestSystem target = TestSystem.of(system);
        String url = target.fresh(folder);
        run(
                url,
                "create table " + target.quote("bed") + " (" + target.quote("id") + " int primary key, "
                        + target.quote("name") + " varchar(5), " + target.quote("plants") + " int check ("
                        + target.quote("plants") + " > 0))",
                "insert into " + target.quote("bed") + " values (9, 'own', 1)");
        Path file = draft("unfit-" + system, source, url);
        edit(file, "onto: refuse", "onto: append", "rejects-allowed: 0", "rejects-allowed: 2");
        assertThat(must(0, "check", file, "--values").out())
                .contains("2 records would be rejected", "It can begin, without the records that would be rejected");
        assertThat(must(0, "run", file).out())
                .contains("2 rows in the set, 2 rejected", "2 records were rejected, with the reason in ")
                .contains("proved");
        run(
                old,
                "update bed set plants = -1 where id = 4",
                "update bed set name = 'too long again' where id = 2",
                "update bed set name = 'Earth' where id = 1",
                "insert into bed values (5, 'South', 7)");
        edit(file, "onto: append", "onto: merge", "rejects-allowed: 2", "rejects-allowed: 3");
        assertThat(must(0, "run", "--catch-up", file).out()).contains("proved");
        Path now = folder.resolve("unfit-now-" + system);
        must(0, "export", url, now, "--format", "csv");
        assertThat(Files.readAllLines(now.resolve("data/bed.csv")))
                .containsExactlyInAnyOrder("id,name,plants", "1,Earth,3", "4,West,", "5,South,7", "9,own,1");
        must(0, "undo", file, "--accept-changes");
    }

    /** Not of the first only, at which the load itself would stop. */
    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void aTryTellsOfAllThatWouldBeRefused(String system) throws Exception {
        TestSystem target = TestSystem.of(system);
        String url = target.fresh(folder);
        run(
                url,
                "create table " + target.quote("bed") + " (" + target.quote("id") + " int primary key, "
                        + target.quote("name") + " varchar(5), " + target.quote("plants") + " int check ("
                        + target.quote("plants") + " > 0))");
        Path come = Files.createDirectories(folder.resolve("tried-" + system));
        Files.write(
                come.resolve("bed.csv"),
                List.of(
                        "id,name,plants",
                        "1,North,1",
                        "2,Southern,2",
                        "3,East,0",
                        "3,West,0",
                        "4,a,1",
                        "4,b,1",
                        "5,Northern,1"));
        assertThat(must(1, "load", come.resolve("bed.csv"), url, "--onto", "append", "--try")
                        .out())
                .contains(
                        "bed.name: 2 values would be refused; the first: ",
                        "'Southern' has 8 characters",
                        "bed.plants: 2 values would be refused; the first: ",
                        "line 4, table bed, column plants: '0' breaks",
                        "bed.id: 2 values would be refused; the first: ",
                        "line 6, table bed, column id: '4' is in 2 records",
                        "Some values or definitions would be refused, and so would the load. Nothing was changed.");
        assertThat(must(1, "load", come.resolve("bed.csv"), url, "--onto", "append", "--try", "--json")
                        .out())
                .contains("\"refused\" : true", "\"rejected\" : 6");
    }

    @Test
    void textsThatAreTheSameToTheTargetAreOneKey() throws Exception {
        String url = TestSystem.MARIADB.fresh(folder);
        run(
                url,
                "create table bed (name varchar(20) collate utf8mb4_general_ci primary key)",
                "create table plant (id int primary key, bed varchar(20) collate utf8mb4_general_ci,"
                        + " foreign key (bed) references bed (name))",
                "insert into bed values ('North')");
        Path come = Files.createDirectories(folder.resolve("alike"));
        Files.writeString(come.resolve("bed.csv"), "name\nÖst\nost\nSüd\nnorth\n");
        Files.writeString(come.resolve("plant.csv"), "id,bed\n1,NORTH\n2,sud  \n3,OST\n4,West\n");

        Path rejected = folder.resolve("alike.csv");
        assertThat(must(1, "load", come, url, "--onto", "append", "--rejects", rejected)
                        .out())
                .contains("8 read = 3 written + 5 rejected + 0 left out");
        assertThat(rejects(rejected))
                .contains(
                        ",2,name,Öst,\"is in 2 records, and the key allows one\"",
                        ",3,name,ost,\"is in 2 records, and the key allows one\"",
                        ",5,name,north,\"is in a record of the target already, and the key allows one\"",
                        ",4,bed,OST,\"refers to a record of bed that isn't there, or was rejected\"",
                        ",5,bed,West,\"refers to a record of bed that isn't there, or was rejected\"");
    }
}
