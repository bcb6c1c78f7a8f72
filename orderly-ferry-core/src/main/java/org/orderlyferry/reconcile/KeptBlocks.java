package org.orderlyferry.reconcile;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * Where a slice's entries are in their file.
 *
 * @param firstRows how many records the slice's first batch had
 * @param firstBytes how many bytes of values
 * @param parts the blocks of each part of the buckets
 */
record KeptBlocks(long firstRows, long firstBytes, List<List<Block>> parts) {

    private static final ObjectMapper JSON = new ObjectMapper();

    /** Some entries that stand together, and the checksum of their numbers. */
    record Block(long at, int count, long checksum) {}

    /** Reads what {@link #toString()} has written; empty if it is something else. */
    static Optional<KeptBlocks> parse(String text) {
        try {
            long[][] numbers = JSON.readValue(text, long[][].class);
            if (numbers == null
                    || numbers.length < 2
                    || Arrays.asList(numbers).contains(null)
                    || numbers[0].length != 2) {
                return Optional.empty();
            }
            List<List<Block>> parts = new ArrayList<>();
            for (int part = 1; part < numbers.length; part++) {
                List<Block> blocks = new ArrayList<>();
                for (int i = 0; i + 2 < numbers[part].length; i += 3) {
                    blocks.add(
                            new Block(numbers[part][i], Math.toIntExact(numbers[part][i + 1]), numbers[part][i + 2]));
                }
                parts.add(blocks);
            }
            return Optional.of(new KeptBlocks(numbers[0][0], numbers[0][1], parts));
        } catch (JsonProcessingException | ArithmeticException e) {
            return Optional.empty();
        }
    }

    /** An array of arrays of numbers in JSON: the first of all but the blocks, then one for each part. */
    @Override
    public String toString() {
        long[][] numbers = new long[parts.size() + 1][];
        numbers[0] = new long[] {firstRows, firstBytes};
        for (int part = 0; part < parts.size(); part++) {
            List<Block> blocks = parts.get(part);
            long[] own = new long[3 * blocks.size()];
            for (int i = 0; i < blocks.size(); i++) {
                own[3 * i] = blocks.get(i).at();
                own[3 * i + 1] = blocks.get(i).count();
                own[3 * i + 2] = blocks.get(i).checksum();
            }
            numbers[part + 1] = own;
        }
        return Arrays.deepToString(numbers);
    }
}
