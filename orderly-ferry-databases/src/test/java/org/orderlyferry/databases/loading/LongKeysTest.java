package org.orderlyferry.databases.loading;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowable;

import java.nio.file.Path;
import java.util.List;
import java.util.Random;
import java.util.stream.Collectors;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.reshape.Reshaping;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** Values that a column takes, and its index doesn't. */
class LongKeysTest {

    private static final TableDefinition LABEL = TableDefinition.named("label")
            .column("id", LogicalType.INTEGER)
            .column("note", LogicalType.CLOB)
            .primaryKey("id")
            .unique(new Key("", List.of("id", "note")))
            .index(IndexDefinition.of("label_note", false, List.of("note")))
            .build();

    private String url;

    @BeforeEach
    void takeADatabase(@TempDir Path folder) {
        url = TestSystem.POSTGRESQL.fresh(folder);
    }

    private static ListedPlace of(String note) {
        return new ListedPlace().with(LABEL, List.of(List.of("1", "short"), List.of("2", note), List.of("3", "x")));
    }

    /** A text that can't be packed. */
    private static String noise(int length) {
        return new Random(417)
                .ints(length, 0x4e00, 0x9000)
                .mapToObj(Character::toString)
                .collect(Collectors.joining());
    }

    private TransferResult load(Place source, boolean rehearsal) {
        try (TargetPlace target = Places.openTarget(url)) {
            return Load.from(source).rehearsal(rehearsal).lanes(2).into(target);
        }
    }

    @Test
    void anEntryThatIsTooLongIsFoundBeforeAnythingMovesAndCanBeLeftBehind() {
        ListedPlace source = of(noise(3_000));
        TransferResult tried = load(source, true);
        assertThat(tried.refused()).isTrue();
        assertThat(tried.findings().stream().map(Finding::text))
                .anyMatch(t -> t.startsWith("its index label_note would be refused"))
                .anyMatch(t -> t.startsWith("its unique key id+note would be refused"));
        Throwable refused = catchThrowable(() -> load(source, false));
        assertThat(refused)
                .hasMessageContaining("the target is as it was before")
                .hasMessageContaining("can be left behind by its name")
                .hasMessageNotContaining("orderly_ferry");
        try (Place place = Places.open(url)) {
            assertThat(place.tables()).isEmpty();
        }
        Place without =
                new Reshaping().without(List.of("label_note", "label.id+note")).over(source, Rejects.STOP);
        assertThat(load(without, true).refused()).isFalse();
        assertThat(load(without, false).leftBehind())
                .extracting(LeftBehind::name)
                .contains("label.label_note", "label.id+note");
        try (Place place = Places.open(url)) {
            TableDefinition there = place.define(place.tables().get(0));
            assertThat(there.indexes()).isEmpty();
            assertThat(there.uniqueKeys()).isEmpty();
            assertThat(there.primaryKey()).isPresent();
        }
    }

    @Test
    void whatTheServerPacksSmallEnoughIsTaken() {
        ListedPlace source = of("moss".repeat(5_000));
        assertThat(load(source, true).refused()).isFalse();
        assertThat(load(source, false).rows()).isEqualTo(3);
    }
}
