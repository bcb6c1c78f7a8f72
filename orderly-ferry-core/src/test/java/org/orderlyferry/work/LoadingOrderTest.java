package org.orderlyferry.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

class LoadingOrderTest {

    private static TableDefinition table(int number, List<Integer> refersTo) {
        TableDefinition.Builder table = TableDefinition.named("t" + number).column("id", LogicalType.INTEGER);
        for (int target : refersTo) {
            table.foreignKey(new ForeignKey(
                    "",
                    List.of("id"),
                    TableName.of("t" + target),
                    List.of("id"),
                    ReferentialAction.NO_ACTION,
                    ReferentialAction.NO_ACTION));
        }
        return table.build();
    }

    /** Without circles (each table refers only to tables of a higher number), what is referred to comes first. */
    @Property
    void whatIsReferredToComesFirst(@ForAll @Size(12) List<List<@IntRange(min = 0, max = 11) Integer>> references) {
        List<TableDefinition> tables = new ArrayList<>();
        for (int i = 0; i < 12; i++) {
            int self = i;
            tables.add(
                    table(i, references.get(i).stream().filter(t -> t >= self).toList()));
        }
        List<TableDefinition> ordered = LoadingOrder.of(tables);
        assertThat(ordered).containsExactlyInAnyOrderElementsOf(tables);
        List<TableName> names = ordered.stream().map(TableDefinition::name).toList();
        for (TableDefinition table : tables) {
            for (ForeignKey key : table.foreignKeys()) {
                assertThat(names.indexOf(key.target())).isLessThanOrEqualTo(names.indexOf(table.name()));
            }
        }
    }

    @Property
    void circlesLoseNoTable(@ForAll @Size(8) List<List<@IntRange(min = 0, max = 9) Integer>> references) {
        List<TableDefinition> tables = new ArrayList<>();
        for (int i = 0; i < 8; i++) {
            tables.add(table(i, references.get(i)));
        }
        assertThat(LoadingOrder.of(tables)).containsExactlyInAnyOrderElementsOf(tables);
    }
}
