package org.orderlyferry.testkit;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Deferrability;
import org.orderlyferry.model.Enumeration;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.reconcile.ComparedDefinitions;
import org.orderlyferry.reconcile.DefinitionDifference;
import org.orderlyferry.reconcile.DefinitionDifference.Part;
import org.orderlyferry.reconcile.Depth;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.doubles.ListedPlace;

/** Parts of definitions between places that keep them as they come: what is the same though it is said otherwise, and what isn't. */
class DefinitionPartsTest {

    private static final TableDefinition SHEET = TableDefinition.named("sheet")
            .column(ColumnDefinition.named("id", LogicalType.BIGINT)
                    .nullable(false)
                    .identity(Optional.of(new Identity(false, 1, 1, 50)))
                    .build())
            .column(ColumnDefinition.named("state", LogicalType.varchar(3))
                    .enumeration(Optional.of(new Enumeration("", List.of("wet", "dry"))))
                    .build())
            .column(ColumnDefinition.named("label", LogicalType.varchar(40))
                    .collation("de_DE")
                    .build())
            .primaryKey("id")
            .build();

    private static List<DefinitionDifference> differences(TableDefinition source, TableDefinition target) {
        ComparedDefinitions compared = Reconcile.between(
                        new ListedPlace().with(source, List.of()), new ListedPlace().with(target, List.of()))
                .depth(Depth.COUNTS)
                .definitions(true)
                .compare()
                .definitions()
                .orElseThrow();
        assertThat(compared.areEqual())
                .isEqualTo(compared.differences().stream().allMatch(DefinitionDifference::forced));
        return compared.differences();
    }

    private static TableDefinition with(int place, ColumnDefinition column) {
        List<ColumnDefinition> columns = new java.util.ArrayList<>(SHEET.columns());
        columns.set(place, column);
        return SHEET.toBuilder().columns(columns).build();
    }

    private static ColumnDefinition column(int place) {
        return SHEET.columns().get(place);
    }

    private static ForeignKey reference(ReferentialAction onDelete, Deferrability waits) {
        return new ForeignKey("", List.of("label"), TableName.of("drawer"), List.of("name"), onDelete, onDelete, waits);
    }

    @Test
    void whatIsTheSameThoughItIsSaidOtherwiseIsNoDifference() {
        assertThat(differences(SHEET, SHEET)).isEmpty();
        TableDefinition key =
                SHEET.toBuilder().unique(new Key("one", List.of("label"))).build();
        TableDefinition index = SHEET.toBuilder()
                .index(IndexDefinition.of("other", true, List.of("label")))
                .build();
        assertThat(differences(key, index))
                .as("a unique key and a unique index")
                .isEmpty();
        assertThat(differences(
                        SHEET,
                        SHEET.toBuilder().unique(new Key("", List.of("id"))).build()))
                .as("what the primary key says already")
                .isEmpty();
        assertThat(differences(
                        SHEET.toBuilder()
                                .foreignKey(reference(ReferentialAction.RESTRICT, Deferrability.NOT_DEFERRABLE))
                                .build(),
                        SHEET.toBuilder()
                                .foreignKey(reference(ReferentialAction.NO_ACTION, Deferrability.NOT_DEFERRABLE))
                                .build()))
                .isEmpty();
        assertThat(differences(
                        SHEET, with(2, column(2).toBuilder().collation("DE_de").build())))
                .isEmpty();
    }

    @Test
    void aCounterMayBeFurtherOnAndNotBehind() {
        ColumnDefinition ahead = column(0).toBuilder()
                .identity(Optional.of(new Identity(false, 1, 1, 80)))
                .build();
        assertThat(differences(SHEET, with(0, ahead))).singleElement().satisfies(d -> {
            assertThat(d.part()).isEqualTo(Part.NEXT_VALUE);
            assertThat(d.forced()).isTrue();
        });
        assertThat(differences(with(0, ahead), SHEET)).singleElement().satisfies(d -> assertThat(d.forced())
                .isFalse());
    }

    @Test
    void whatIsOtherwiseIsNamedByItsPart() {
        assertThat(differences(SHEET, SHEET.toBuilder().comment("pressed").build()))
                .extracting(DefinitionDifference::part)
                .containsExactly(Part.COMMENT);
        assertThat(differences(SHEET, SHEET.withColumns(List.of("id", "label", "state"))))
                .extracting(DefinitionDifference::part)
                .contains(Part.ORDER);
        ColumnDefinition other = column(1).toBuilder()
                .enumeration(Optional.of(new Enumeration("", List.of("dry", "wet"))))
                .build();
        assertThat(differences(SHEET, with(1, other)))
                .as("values sort in their order")
                .extracting(DefinitionDifference::part)
                .containsExactly(Part.VALUES);
        assertThat(differences(SHEET, SHEET.toBuilder().primaryKey((Key) null).build()))
                .extracting(DefinitionDifference::part)
                .contains(Part.PRIMARY_KEY);
        assertThat(differences(
                        SHEET.toBuilder()
                                .foreignKey(reference(ReferentialAction.CASCADE, Deferrability.INITIALLY_DEFERRED))
                                .build(),
                        SHEET.toBuilder()
                                .foreignKey(reference(ReferentialAction.CASCADE, Deferrability.NOT_DEFERRABLE))
                                .build()))
                .extracting(DefinitionDifference::part)
                .containsExactly(Part.REFERENCE, Part.REFERENCE);
    }
}
