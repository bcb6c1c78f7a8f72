package org.orderlyferry.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.ForwardingPlace;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;

class SliceSizeTest {

    private static final TableDefinition NUMBERS = TableDefinition.named("reading")
            .column("id", LogicalType.BIGINT)
            .column("code", LogicalType.varchar(9))
            .build();

    @TempDir
    private static Path folder;

    /** A place whose tables have the size that is told, and which keeps how it is cut. */
    private static final class Sized extends ForwardingPlace {

        private final OptionalLong bytes;
        private boolean asked;
        private long sliceRows;

        Sized(OptionalLong bytes) {
            super(Places.open(folder.resolve("note.csv").toString()));
            this.bytes = bytes;
        }

        @Override
        public OptionalLong quickBytes(TableName table) {
            asked = true;
            return bytes;
        }

        @Override
        public List<Slice> cut(TableDefinition table, long rows, Cut cut) {
            sliceRows = cut.rows();
            return List.of(Slice.whole(table));
        }
    }

    /** A few long texts, which a measure of records alone leaves whole. */
    @BeforeAll
    static void write() throws Exception {
        StringBuilder csv = new StringBuilder("id,text\n");
        for (int i = 0; i < 400; i++) {
            csv.append(i)
                    .append(",\"")
                    .append("a dry slope\n".repeat(i % 9 == 0 ? 300 : 30))
                    .append("\"\n");
        }
        Files.writeString(folder.resolve("note.csv"), csv);
    }

    /** No slice has more than either measure says, of what is known, but for a single record. */
    @Property(tries = 200)
    void theSmallerMeasureCounts(
            @ForAll @LongRange(min = 2, max = Long.MAX_VALUE / 2) long rows,
            @ForAll @LongRange(max = Long.MAX_VALUE / 2) long bytes,
            @ForAll @LongRange(min = 1) long mostRows,
            @ForAll @LongRange(min = 1) long mostBytes) {
        long slice = new SliceSize(mostRows, mostBytes).rows(rows, OptionalLong.of(bytes));
        assertThat(slice).isBetween(1L, mostRows);
        double each = (double) bytes / rows;
        assertThat(slice == 1 || slice * each <= mostBytes * 1.001 || bytes <= mostBytes)
                .isTrue();
        if (slice < mostRows) {
            assertThat((slice + 1) * each).isGreaterThan(mostBytes * 0.999);
        }
    }

    @Test
    void whereNobodyKnowsTheSizeRecordsCount() {
        assertThat(new SliceSize(700, 10).rows(5_000, OptionalLong.empty())).isEqualTo(700);
    }

    @Test
    void aTableThatCannotBeLargeIsNotAskedForItsSize() {
        for (long rows : new long[] {0, 1, 1_000}) {
            try (Sized place = new Sized(OptionalLong.of(Long.MAX_VALUE))) {
                new SliceSize(Cut.DEFAULT_ROWS, Cut.DEFAULT_BYTES)
                        .slices(place, NUMBERS, rows, Map.of(), Cut.Standing.NEVER);
                assertThat(place.asked).isFalse();
                assertThat(place.sliceRows).isEqualTo(Cut.DEFAULT_ROWS);
            }
        }
    }

    @Test
    void aFileOfLongTextsIsCut() {
        Path file = folder.resolve("note.csv");
        try (Place place = Places.open(file.toString())) {
            TableDefinition table = place.define(TableName.of("note"));
            List<Slice> slices = new SliceSize(Cut.DEFAULT_ROWS, 30_000)
                    .slices(place, table, place.estimate(table.name()), Map.of(), Cut.Standing.NEVER);
            assertThat(slices).hasSizeBetween(6, 14);
            assertThat(slices).extracting(s -> s.piece().isWhole()).containsOnly(false);
        }
    }
}
