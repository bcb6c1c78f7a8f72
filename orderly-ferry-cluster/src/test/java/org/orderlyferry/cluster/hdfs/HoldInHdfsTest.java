package org.orderlyferry.cluster.hdfs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.orderlyferry.io.Hold;

/** Who holds what, where there are no locks. */
class HoldInHdfsTest {

    private final Path file = MiniCluster.folder().resolve(".lock");

    @Test
    void oneHasItUntilItLetsGo() throws IOException {
        AtomicInteger waits = new AtomicInteger();
        try (Hold first = Hold.take(file, "first", waits::incrementAndGet).orElseThrow()) {
            assertThat(Hold.isHeld(file)).isTrue();
            assertThat(waits).hasValue(0);
            assertThat(Hold.take(file, "second", waits::incrementAndGet)).isEmpty();
            assertThat(waits).hasValue(1);
            assertThat(Files.readString(file)).isEqualTo("first");
            first.mustBeOurs();
        }
        assertThat(Hold.isHeld(file)).isFalse();
        Hold second = Hold.take(file, "second", waits::incrementAndGet).orElseThrow();
        assertThat(waits).hasValue(1);
        assertThat(Files.readString(file)).isEqualTo("second");
        second.remove();
        assertThat(MiniCluster.names(file.getParent())).isEmpty();
    }

    /** What a process that was killed leaves: a mark that nobody touches any more. */
    private void killed() throws IOException {
        Files.writeString(file, "killed");
        Files.writeString(file.resolveSibling(".lock.by-3c1f"), "");
    }

    @Test
    void ofSeveralWhoTakeOverFromOneThatWasKilledOneHasIt() throws Exception {
        killed();
        ExecutorService several = Executors.newFixedThreadPool(4);
        try {
            List<Callable<Optional<Hold>>> takes = IntStream.range(0, 4)
                    .mapToObj(i -> (Callable<Optional<Hold>>) () -> Hold.take(file, "taken by " + i))
                    .toList();
            List<Optional<Hold>> taken = new java.util.ArrayList<>();
            for (var take : several.invokeAll(takes)) {
                taken.add(take.get());
            }
            assertThat(taken).filteredOn(Optional::isPresent).hasSize(1);
            for (Optional<Hold> one : taken) {
                if (one.isPresent()) {
                    one.get().mustBeOurs();
                    one.get().close();
                }
            }
        } finally {
            several.shutdownNow();
        }
    }

    @Test
    void whoWasTakenOverMayNotGoOn() throws IOException {
        Hold slow = Hold.take(file, "slow").orElseThrow();
        Path mark;
        try (Stream<Path> all = Files.list(file.getParent())) {
            mark = all.filter(p -> p.toString().contains(".by-")).findFirst().orElseThrow();
        }
        // as another process does when this one has given no sign of life
        Files.move(mark, file.resolveSibling(".lock.by-another"));
        assertThatThrownBy(slow::mustBeOurs).hasMessageContaining("another process has taken it over");
        slow.close();
        assertThat(MiniCluster.names(file.getParent())).containsExactly(".lock", ".lock.by-another");
    }
}
