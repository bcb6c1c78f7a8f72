package org.orderlyferry.csvw;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.folder.OneTry;
import org.orderlyferry.testkit.generated.GeneratedTables;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.PlanFile;
import org.orderlyferry.work.WorkPlan;

/** Whatever a definition holds, its CSVW schema holds too, alone, in a set and in a plan. */
class GeneratedSchemasTest {

    private static final ObjectMapper JSON = new ObjectMapper();

    @Property(tries = 500)
    void aSchemaGivesTheDefinitionBack(@ForAll long seed) throws Exception {
        for (TableDefinition table : new GeneratedTables(seed).some(3)) {
            String text = JSON.writeValueAsString(new CsvwSchemaWriter(Map.of()).write(table));
            assertThat(new CsvwSchemaReader("a set").read(JSON.readTree(text), "other"))
                    .isEqualTo(table);
        }
    }

    @Property(tries = 25)
    void aSetGivesAllDefinitionsBack(@ForAll long seed) throws Exception {
        List<TableDefinition> tables = new GeneratedTables(seed).some(4);
        ListedPlace source = new ListedPlace();
        tables.forEach(t -> source.with(t, List.of()));
        try (OneTry one = OneTry.begin()) {
            Path folder = one.path();
            Path plan = folder.resolve("plan.json");
            Export.from(source).plan(new PlanFile(plan, PlanFile.Moments.STILL)).to(folder.resolve("set"));
            try (Place set = Places.open(folder.resolve("set"))) {
                for (TableDefinition table : tables) {
                    assertThat(set.define(table.name())).isEqualTo(table);
                }
            }
            WorkPlan kept = WorkPlan.parse(Files.readString(plan));
            assertThat(kept.definitions()).containsExactlyInAnyOrderElementsOf(tables);
            assertThat(WorkPlan.parse(kept.toJson())).isEqualTo(kept);
            assertThat(WorkPlan.parse(kept.toJson()).hash()).isEqualTo(kept.hash());
        }
    }
}
