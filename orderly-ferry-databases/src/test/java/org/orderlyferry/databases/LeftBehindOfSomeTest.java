package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.reshape.Reshaping;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;

/** Whoever carries some tables is told of what can't be carried of these, and of what is no table's. */
class LeftBehindOfSomeTest {

    @TempDir
    private Path folder;

    /** Tables with a column of a domain, or with a trigger, and a view. */
    private static List<String> made(String system) {
        boolean domains = system.equals("H2") || system.equals("PostgreSQL");
        List<String> all = new ArrayList<>();
        if (domains) {
            all.add("create domain code as int check (value > 0)");
        }
        for (String table : List.of("bed", "pot", ".dot")) {
            all.add("create table Q" + table + "Q (id int primary key, c " + (domains ? "code" : "int") + ")");
            if (!domains) {
                all.add(trigger(system, table));
            }
        }
        all.add("create view seen as select id from QbedQ");
        all.replaceAll(s -> s.replace("Q", system.equals("MariaDB") ? "`" : "\""));
        return all;
    }

    private static String trigger(String system, String table) {
        String name = table.replace(".", "") + "_t";
        return system.equals("SQLite")
                ? "create trigger " + name + " after insert on Q" + table + "Q begin select 1; end"
                : "create trigger " + name + " before insert on Q" + table + "Q for each row set new.c = 1";
    }

    private static List<String> named(List<LeftBehind> all) {
        return all.stream().map(LeftBehind::name).sorted().toList();
    }

    private static String part(String system, String table) {
        return switch (system) {
            case "H2" -> table + ".C";
            case "PostgreSQL" -> table + ".c";
            default -> table + "." + table.replace(".", "") + "_t";
        };
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#names")
    void onlyWhatConcernsThemIsTold(String system) throws Exception {
        String url = TestSystem.of(system).fresh(folder);
        Databases.run(url, made(system).toArray(String[]::new));
        String view = system.equals("H2") ? "SEEN" : "seen";
        Path set = folder.resolve("all-" + system);
        try (Place place = Places.open(url)) {
            assertThat(named(place.leftBehind()))
                    .contains(part(system, "bed"), part(system, "pot"), part(system, ".dot"), view);
            assertThat(named(Export.from(place)
                            .tables("bed")
                            .to(folder.resolve("one-" + system))
                            .leftBehind()))
                    .contains(part(system, "bed"), view)
                    .noneMatch(n -> n.contains("pot") || n.contains("dot"));
            assertThat(named(Export.from(place).to(set).leftBehind())).isEqualTo(named(place.leftBehind()));
            Place renamed = new Reshaping().table("pot", TableName.of("box")).over(place, Rejects.STOP);
            assertThat(named(Export.from(renamed)
                            .tables("box")
                            .to(folder.resolve("renamed-" + system))
                            .leftBehind()))
                    .contains(part(system, "pot"), view)
                    .noneMatch(n -> n.contains("bed") || n.contains("dot"));
        }
        // and so does a set of all of them
        try (Place place = Places.open(set.toString())) {
            assertThat(named(Export.from(place)
                            .tables(".dot")
                            .to(folder.resolve("again-" + system))
                            .leftBehind()))
                    .contains(part(system, ".dot"), view)
                    .noneMatch(n -> n.contains("pot") || n.contains("bed"));
        }
    }
}
