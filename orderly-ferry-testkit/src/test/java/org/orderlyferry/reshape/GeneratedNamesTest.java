package org.orderlyferry.reshape;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import net.jqwik.api.Example;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.Place;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.generated.GeneratedTables;

/** A name that is meant as it stands is found, whatever it holds. */
class GeneratedNamesTest {

    private static void mustBeFound(TableDefinition table) {
        for (String column : table.columnNames()) {
            String name = Reshaping.literally(table.name().toString()) + "." + Reshaping.literally(column);
            Place reshaped = new Reshaping()
                    .rename(name, "renamed")
                    .over(new ListedPlace().with(table, List.of()), Rejects.STOP);
            assertThat(reshaped.define(table.name()).columnNames()).contains("renamed");
        }
    }

    @Property(tries = 300)
    void aGeneratedNameIsFound(@ForAll long seed) {
        mustBeFound(new GeneratedTables(seed).some(1).get(0));
    }

    @Example
    void aNameBeyondTheFirstPlaneIsFound() {
        mustBeFound(TableDefinition.named("\uD83C\uDF3F")
                .column("\uD835\uDD2E*\\\n", LogicalType.INTEGER)
                .build());
    }
}
