package org.orderlyferry.tally;

import static org.assertj.core.api.Assertions.assertThat;

import com.dynatrace.hash4j.hashing.HashValue128;
import com.dynatrace.hash4j.hashing.Hashing;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;
import org.orderlyferry.record.RecordBatch;

/** A value's hash is that of the published function, wherever the value stands and whatever stands around it. */
class CellHashTest {

    @Property
    void aHashIsThatOfThePublishedFunction(
            @ForAll @Size(max = 40) byte[] value,
            @ForAll @IntRange(max = 20) int before,
            @ForAll @IntRange(max = 20) int behind,
            @ForAll byte filling) {
        byte[] all = new byte[before + value.length + behind];
        java.util.Arrays.fill(all, filling);
        System.arraycopy(value, 0, all, before, value.length);
        CellHash hash = new CellHash();
        hash.of(all, before, before + value.length);
        HashValue128 published = value.length <= CellHash.SHORT
                ? Hashing.murmur3_128(CellHash.SEED).hashBytesTo128Bits(value)
                : Hashing.xxh3_128().hashBytesTo128Bits(value);
        assertThat(hash.low()).isEqualTo(published.getLeastSignificantBits());
        assertThat(hash.high()).isEqualTo(published.getMostSignificantBits());
    }

    @Property
    void recordsAreCountedTheSameInOneBatchOrInSeveral(
            @ForAll @Size(min = 1, max = 30) List<@Size(max = 30) String> values, @ForAll @IntRange(min = 1) int cut) {
        List<String> kept = values.stream()
                .filter(v -> v.codePoints().noneMatch(c -> Character.getType(c) == Character.SURROGATE))
                .toList();
        TallyTaker whole = taker();
        whole.add(batch(kept));
        int at = kept.isEmpty() ? 0 : cut % kept.size();
        TallyTaker parts = taker();
        parts.add(batch(kept.subList(at, kept.size())));
        parts.add(batch(kept.subList(0, at)));
        assertThat(parts.tally()).isEqualTo(whole.tally());
    }

    private static TallyTaker taker() {
        return new TallyTaker(List.of("a", "b"), List.of(ComparisonForm.EXACT, ComparisonForm.NUMBER));
    }

    private static RecordBatch batch(List<String> values) {
        RecordBatch batch = new RecordBatch();
        batch.start(2, "t", "test", false);
        for (int i = 0; i < values.size(); i++) {
            batch.add(values.get(i).getBytes(StandardCharsets.UTF_8));
            if (values.get(i).length() % 3 == 0) {
                batch.addNull();
            } else {
                batch.add(values.get(i).length());
            }
            batch.endRow(i);
        }
        return batch;
    }

    /** Values that trade places between records or columns leave each column's sum as it is, and not the table's. */
    @Test
    void valuesThatTradePlacesAreSeen() {
        Set<Digest> digests = new HashSet<>();
        List<Digest> all = new ArrayList<>();
        List<List<String>> tables = List.of(
                List.of("1", "moss", "2", "fern"),
                List.of("1", "fern", "2", "moss"),
                List.of("moss", "1", "fern", "2"),
                List.of("1", "moss", "fern", "2"),
                List.of("1", "", "2", "mossfern"),
                List.of("1", "mossfern", "2", ""));
        for (List<String> table : tables) {
            RecordBatch batch = new RecordBatch();
            batch.start(2, "t", "test", false);
            for (int i = 0; i < table.size(); i += 2) {
                batch.add(table.get(i).getBytes(StandardCharsets.UTF_8));
                batch.add(table.get(i + 1).getBytes(StandardCharsets.UTF_8));
                batch.endRow(i);
            }
            TallyTaker taker = new TallyTaker(List.of("a", "b"), List.of(ComparisonForm.EXACT, ComparisonForm.EXACT));
            taker.add(batch);
            digests.add(taker.tally().digest());
            all.add(taker.tally().digest());
        }
        assertThat(digests).hasSameSizeAs(all);
    }
}
