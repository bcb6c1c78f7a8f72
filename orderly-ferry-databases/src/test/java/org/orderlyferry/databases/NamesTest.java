package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.servers.Servers;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** Names that a system doesn't take are mapped by a rule, with no two becoming one, and told. */
class NamesTest {

    private static final String LONG = "the_longest_name_that_anybody_ever_gave_to_a_drawer_of_pressed_mosses";

    @TempDir
    private static Path folder;

    @Test
    void namesThatAreTooLongOrDifferInCaseOnlyOrHoldQuotes() throws Exception {
        String file = folder.resolve("names").toString();
        try (Connection connection = DriverManager.getConnection("jdbc:h2:" + file, "sa", "");
                Statement statement = connection.createStatement()) {
            for (String sql : List.of(
                    "CREATE TABLE \"" + LONG + "_a\" (\"select\" INTEGER PRIMARY KEY, \"" + LONG + "_x\" INTEGER, \""
                            + LONG + "_y\" INTEGER, CONSTRAINT \"" + LONG + "_k\" UNIQUE (\"" + LONG + "_y\"))",
                    "CREATE TABLE \"" + LONG + "_b\" (\"it's \"\"quoted\"\" `so`\" INTEGER REFERENCES \"" + LONG
                            + "_a\" (\"select\"), \"🌿\" VARCHAR(9), CONSTRAINT \"positive\" CHECK (\"it's \"\"quoted\"\""
                            + " `so`\" > 0))",
                    "CREATE TABLE \"Order\" (\"Id\" INTEGER, \"id\" INTEGER, \"ID\" VARCHAR(9))",
                    "CREATE TABLE \"order\" (\"Id\" INTEGER)",
                    "CREATE INDEX \"same\" ON \"Order\" (\"Id\")",
                    "CREATE TABLE \" blanks \" (\" a \" INTEGER)",
                    "INSERT INTO \"" + LONG + "_a\" VALUES (1, 2, 3)",
                    "INSERT INTO \"" + LONG + "_b\" VALUES (1, 'moss')",
                    "INSERT INTO \"Order\" VALUES (1, 2, 'x')",
                    "INSERT INTO \"order\" VALUES (417)")) {
                statement.execute(sql);
            }
        }
        String source = file + ".mv.db";
        Path set = folder.resolve("set");
        try (Place place = Places.open(source)) {
            Export.from(place).to(set);
        }
        for (String target :
                List.of(folder.resolve("names.sqlite").toString(), Servers.newPostgres(), Servers.newMaria())) {
            TransferResult result;
            try (Place from = Places.open(set.toString());
                    TargetPlace to = Places.openTarget(target)) {
                result = Load.from(from).into(to);
            }
            try (Place a = Places.open(source);
                    Place b = Places.open(target)) {
                assertThat(Reconcile.between(a, b).compare().tables())
                        .as(target)
                        .hasSize(5)
                        .allSatisfy(t ->
                                assertThat(t.verdict()).as(t.table().name()).hasToString("EQUAL"));
                List<String> names = b.tables().stream().map(TableName::name).toList();
                List<String> told =
                        result.findings().stream().map(Object::toString).toList();
                if (target.contains("postgresql")) {
                    assertThat(names).contains("Order", "order", LONG.substring(0, 63), LONG.substring(0, 61) + "_2");
                    assertThat(told)
                            .contains(
                                    LONG + "_b: the table becomes " + LONG.substring(0, 61)
                                            + "_2: a name has at most 63 bytes here",
                                    LONG + "_a." + LONG + "_y: the column becomes " + LONG.substring(0, 61)
                                            + "_2: a name has at most 63 bytes here");
                } else {
                    assertThat(names).contains("Order", "order_2").doesNotContain("order");
                    assertThat(told)
                            .contains("order: the table becomes order_2: the name is taken, and case doesn't tell names"
                                    + " apart here")
                            .anyMatch(f -> f.startsWith("Order.ID: the column becomes ID_3"));
                }
                if (target.contains("mariadb")) {
                    assertThat(told)
                            .anyMatch(
                                    f -> f.contains("🌿: the column becomes _: a character can't stand in a name here"))
                            .anyMatch(f -> f.contains("blanks"));
                }
            }
        }
    }
}
