package org.orderlyferry.ledger;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.ledger.LedgerLine.State;
import org.orderlyferry.ledger.LedgerLine.Step;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.UsageException;

class RunLedgerTest {

    @TempDir
    private Path folder;

    private Path file;

    @BeforeEach
    void writeThreeLines() {
        file = folder.resolve(RunLedger.NAME);
        try (RunLedger ledger = RunLedger.open(folder)) {
            ledger.note(Step.RUN, State.BEGUN, Map.of("by", "a \"quoted\"\nname"));
            ledger.note(Step.EXPORT, State.BEGUN, Map.of());
            ledger.note(Step.EXPORT, State.DONE, Map.of("rows", "12"));
        }
    }

    @Test
    void whatIsNotedIsThereForWhoeverComesNext() {
        RunLedger ledger = RunLedger.read(folder);
        assertThat(ledger.lines()).hasSize(3);
        assertThat(ledger.last(Step.EXPORT, State.DONE).orElseThrow().fact("rows"))
                .isEqualTo("12");
        assertThat(ledger.lines().get(0).fact("by")).isEqualTo("a \"quoted\"\nname");
        assertThat(ledger.has(Step.LOAD, State.BEGUN)).isFalse();
    }

    @Test
    void aLineThatWasBeingWrittenCountsAsNotWritten() throws Exception {
        byte[] whole = Files.readAllBytes(file);
        int lastLine = new String(whole, java.nio.charset.StandardCharsets.UTF_8)
                        .trim()
                        .lastIndexOf('\n')
                + 1;
        for (int length = lastLine; length < whole.length; length++) {
            Files.write(file, java.util.Arrays.copyOf(whole, length));
            try (RunLedger ledger = RunLedger.open(folder)) {
                assertThat(ledger.lines()).hasSize(2);
                ledger.note(Step.LOAD, State.BEGUN, Map.of());
            }
            assertThat(RunLedger.read(folder).lines()).hasSize(3);
        }
    }

    @Test
    void noByteOfAWholeLineCanBeChangedUnseen() throws Exception {
        byte[] whole = Files.readAllBytes(file);
        Random random = new Random(417);
        for (int i = 0; i < whole.length; i++) {
            byte[] changed = whole.clone();
            changed[i] = (byte) (changed[i] ^ 1 << random.nextInt(7));
            Files.write(file, changed);
            if (i == whole.length - 1) {
                // without its end the last line is one that was being written
                assertThat(RunLedger.read(folder).lines()).hasSize(2);
            } else {
                assertThatThrownBy(() -> RunLedger.read(folder))
                        .as("byte " + i)
                        .isInstanceOf(MalformedFileException.class)
                        .hasMessageContaining("was changed after it was written");
            }
        }
    }

    @Test
    void linesCantBeTakenOutOrExchanged() throws Exception {
        List<String> lines = Files.readAllLines(file);
        Files.write(file, List.of(lines.get(0), lines.get(2)));
        assertThatThrownBy(() -> RunLedger.read(folder)).hasMessageContaining("line 2");
        Files.write(file, List.of(lines.get(1), lines.get(0), lines.get(2)));
        assertThatThrownBy(() -> RunLedger.read(folder)).hasMessageContaining("line 1");
    }

    @Test
    void aRunWhoseClockWasPutBackComesBehindTheOthers() throws Exception {
        Path later = Files.createDirectories(folder.resolve("2199-01-01T00-00-00"));
        Files.copy(file, later.resolve(RunLedger.NAME));
        RunFolder next = RunFolder.next(folder);
        assertThat(next.name()).isEqualTo("2199-01-01T00-00-01");
    }

    @Test
    void whoHasTheLockIsTold() {
        RunLock lock = RunLock.take(folder, () -> {});
        assertThatThrownBy(() -> RunLock.take(folder, () -> {}))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("process " + ProcessHandle.current().pid())
                .hasMessageContaining("since ");
        lock.close();
        RunLock.take(folder, () -> {}).close();
    }
}
