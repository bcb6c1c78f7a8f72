package org.orderlyferry.reconcile;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;

class DigestMapTest {

    /** The same as a map of the JDK's, whatever is done in whatever order; keys that meet in one place among them. */
    @Property(tries = 200)
    void itIsAMap(@ForAll long seed) {
        Random random = new Random(seed);
        DigestMap map = new DigestMap();
        Map<List<Long>, List<Long>> plain = new HashMap<>();
        for (int i = 0; i < 3_000; i++) {
            long high = random.nextInt(40);
            long low = random.nextInt(60) * 1024L;
            long value = random.nextInt(3);
            List<Long> key = List.of(high, low);
            if (random.nextInt(3) > 0) {
                map.put(high, low, value, -value);
                plain.put(key, List.of(value, -value));
            } else {
                List<Long> had = plain.remove(key);
                assertThat(map.take(high, low, value, -value))
                        .isEqualTo(
                                had == null
                                        ? DigestMap.Found.ABSENT
                                        : had.equals(List.of(value, -value))
                                                ? DigestMap.Found.SAME
                                                : DigestMap.Found.OTHER);
            }
            assertThat(map.size()).isEqualTo(plain.size());
            assertThat(map.contains(high, low)).isEqualTo(plain.containsKey(key));
        }
        map.clear();
        assertThat(map.size()).isZero();
        plain.keySet().forEach(k -> assertThat(map.contains(k.get(0), k.get(1))).isFalse());
    }
}
