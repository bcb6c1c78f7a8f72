package org.orderlyferry.reconcile;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;

class DigestMapTest {

    /** The same as maps of the JDK's, in whatever order keys are taken out; keys that meet in one place, and twins, among them. */
    @Property(tries = 300)
    void itIsAMap(@ForAll long seed, @ForAll @IntRange(max = 3) int disorder) {
        Random random = new Random(seed);
        DigestMap map = new DigestMap();
        for (int round = 0; round < 2; round++) {
            Map<List<Long>, Deque<Long>> plain = new HashMap<>();
            List<List<Long>> keys = new ArrayList<>();
            int count = random.nextInt(3_000);
            for (int i = 0; i < count; i++) {
                List<Long> key = List.of((long) random.nextInt(40), random.nextInt(600) * 1024L);
                long value = random.nextInt(3);
                map.put(key.get(0), key.get(1), value, -value);
                plain.computeIfAbsent(key, k -> new ArrayDeque<>()).add(value);
                keys.add(key);
            }
            assertThat(map.size()).isEqualTo(count);
            Set<List<Long>> taken = new HashSet<>();
            for (List<Long> key : asked(keys, disorder, random)) {
                long value = random.nextInt(3);
                Deque<Long> had = plain.getOrDefault(key, new ArrayDeque<>());
                assertThat(map.contains(key.get(0), key.get(1))).isEqualTo(!had.isEmpty());
                DigestMap.Found found = map.take(key.get(0), key.get(1), value, -value);
                if (had.isEmpty()) {
                    assertThat(found).isEqualTo(DigestMap.Found.ABSENT);
                } else {
                    // of twins, either may be meant
                    assertThat(had.remove(map.takenHigh())).isTrue();
                    assertThat(map.takenLow()).isEqualTo(-map.takenHigh());
                    assertThat(found)
                            .isEqualTo(map.takenHigh() == value ? DigestMap.Found.SAME : DigestMap.Found.OTHER);
                    taken.add(key);
                }
            }
            DigestMap left = map.left();
            RunningSum sum = new RunningSum();
            plain.forEach((key, values) -> {
                boolean isLeft = !values.isEmpty() && !taken.contains(key);
                assertThat(left.contains(key.get(0), key.get(1))).isEqualTo(isLeft);
                if (isLeft) {
                    values.forEach(v -> sum.add(v, -v));
                }
            });
            assertThat(left.sum()).isEqualTo(sum.sum());
            assertThat(left.size()).isEqualTo((int) sum.sum().rows());
            map.clear();
            assertThat(map.size()).isZero();
            keys.forEach(k -> assertThat(map.contains(k.get(0), k.get(1))).isFalse());
        }
    }

    /** Most keys, and some that aren't there: in order, with some that come late, turned around, or shuffled. */
    private static List<List<Long>> asked(List<List<Long>> keys, int disorder, Random random) {
        List<List<Long>> asked = new ArrayList<>();
        List<List<Long>> late = new ArrayList<>();
        for (List<Long> key : keys) {
            switch (random.nextInt(20)) {
                case 0 -> late.add(key);
                case 1 -> asked.add(List.of(-1L, (long) random.nextInt(9)));
                case 2 -> {
                    // nobody asks for it
                }
                default -> asked.add(key);
            }
        }
        asked.addAll(late);
        switch (disorder) {
            case 1 -> Collections.reverse(asked);
            case 2 -> Collections.shuffle(asked, random);
            case 3 -> Collections.rotate(asked, asked.size() / 3);
            default -> {
                // as they were put in
            }
        }
        return asked;
    }
}
