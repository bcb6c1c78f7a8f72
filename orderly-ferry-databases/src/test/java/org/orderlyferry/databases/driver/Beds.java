package org.orderlyferry.databases.driver;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.testkit.doubles.ListedPlace;

/** Garden beds, and a plant in each: two tables with keys, an index and a reference. */
final class Beds {

    private Beds() {}

    /**
     * Some beds.
     *
     * @param counter of the beds' numbers
     * @param names each with its number in front: {@code 1=moss}
     */
    static ListedPlace of(Optional<Identity> counter, String... names) {
        ListedPlace place = new ListedPlace();
        List<List<String>> records = new ArrayList<>();
        List<List<String>> plants = new ArrayList<>();
        for (String name : names) {
            String[] parts = name.split("=");
            records.add(List.of(parts[0], parts[1]));
            plants.add(List.of(parts[0], parts[0], "p" + parts[1]));
        }
        return place.with(
                        TableDefinition.named(TableName.of("bed"))
                                .column(ColumnDefinition.named("id", LogicalType.INTEGER)
                                        .nullable(false)
                                        .identity(counter)
                                        .build())
                                .column("name", LogicalType.varchar(20))
                                .primaryKey("id")
                                .unique(new Key("bed_name", List.of("name")))
                                .index(IndexDefinition.of("bed_names", false, List.of("name", "id")))
                                .build(),
                        records)
                .with(
                        TableDefinition.named(TableName.of("plant"))
                                .column(ColumnDefinition.named("id", LogicalType.INTEGER)
                                        .nullable(false)
                                        .build())
                                .column("bed", LogicalType.INTEGER)
                                .column("label", LogicalType.varchar(20))
                                .primaryKey("id")
                                .foreignKey(new ForeignKey(
                                        "plant_bed",
                                        List.of("bed"),
                                        TableName.of("bed"),
                                        List.of("id"),
                                        ReferentialAction.NO_ACTION,
                                        ReferentialAction.NO_ACTION))
                                .build(),
                        plants);
    }
}
