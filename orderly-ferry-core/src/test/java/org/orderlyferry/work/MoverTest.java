package org.orderlyferry.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.orderlyferry.Rows;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.StoppedException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.tally.TallyTaker;

/** A reader that works ahead of a writer, and ends with it, whichever of them fails. */
@Timeout(60)
class MoverTest {

    private static final TableDefinition TABLE = Rows.texts(1);

    private final List<String> written = new ArrayList<>();
    private final AtomicInteger read = new AtomicInteger();
    private final TallyTaker taker = TallyTaker.of(TABLE.columns());

    private Mover mover(Runnable check) {
        return new Mover(TABLE.name(), ProgressListener.NONE, new Pace(0, 0), check);
    }

    /** Gives batches of one record, numbered. */
    private RecordReader reader(int count, int fatal, int size) {
        return new RecordReader() {
            @Override
            public TableDefinition table() {
                return TABLE;
            }

            @Override
            public boolean read(RecordBatch batch) {
                batch.start(1, "label", "herb", false);
                int number = read.incrementAndGet();
                if (number == fatal) {
                    throw new PlaceException("herb", "is burning", null);
                }
                if (number > count) {
                    return false;
                }
                batch.add(number + String.join("", Collections.nCopies(size, "x")));
                batch.endRow(number);
                return true;
            }

            @Override
            public void close() {
                // nothing is held
            }
        };
    }

    private RecordWriter writer(int fatal) {
        return new RecordWriter() {
            @Override
            public void write(RecordBatch batch) {
                if (written.size() + 1 == fatal) {
                    throw new PlaceException("target", "is full", null);
                }
                for (int row = 0; row < batch.rows(); row++) {
                    written.add(batch.text(row, 0).replace("x", ""));
                }
            }

            @Override
            public void finish() {
                throw new AssertionError("whoever asked for the move ends it");
            }

            @Override
            public void close() {
                throw new AssertionError("whoever asked for the move ends it");
            }
        };
    }

    @Test
    void allRecordsMoveInTheirOrderAndAreCounted() {
        Mover mover = mover(() -> {});
        mover.move(reader(500, 0, 0), batch -> {}, taker, writer(0));
        assertThat(written).hasSize(500).startsWith("1", "2").endsWith("500");
        assertThat(mover.rows()).isEqualTo(500);
        assertThat(mover.bytes()).isEqualTo(9 + 90 * 2 + 401 * 3);
        assertThat(taker.tally().rows()).isEqualTo(500);
    }

    @Test
    void nothingMovesWhereNothingIs() {
        Mover mover = mover(() -> {});
        mover.move(reader(0, 0, 0), batch -> {}, taker, writer(0));
        assertThat(mover.rows()).isZero();
        assertThat(written).isEmpty();
    }

    @Test
    void aReaderThatFailsIsToldAfterWhatItGave() {
        assertThatThrownBy(() -> mover(() -> {}).move(reader(500, 20, 0), batch -> {}, taker, writer(0)))
                .hasMessage("herb: is burning");
        assertThat(written).hasSize(19);
    }

    @Test
    void aWriterThatFailsEndsTheReaderWhichIsOnlyAFewBatchesAhead() {
        assertThatThrownBy(() -> mover(() -> {}).move(reader(100_000, 0, 0), batch -> {}, taker, writer(7)))
                .hasMessage("target: is full");
        assertThat(written).hasSize(6);
        assertThat(read.get()).isLessThan(15);
    }

    @Test
    void aHugeValueIsAloneInMemory() {
        int[] ahead = {0};
        RecordWriter slow = writer(0);
        RecordWriter looking = new RecordWriter() {
            @Override
            public void write(RecordBatch batch) {
                ahead[0] = Math.max(ahead[0], read.get() - written.size());
                slow.write(batch);
            }

            @Override
            public void finish() {
                slow.finish();
            }

            @Override
            public void close() {
                slow.close();
            }
        };
        mover(() -> {}).move(reader(4, 0, 9 * 1024 * 1024), batch -> {}, taker, looking);
        assertThat(written).containsExactly("1", "2", "3", "4");
        assertThat(ahead[0]).isEqualTo(1);
    }

    @Test
    void aStopEndsBoth() {
        int[] asked = {0};
        assertThatThrownBy(() -> mover(() -> {
                            if (++asked[0] > 10) {
                                throw new StoppedException();
                            }
                        })
                        .move(reader(100_000, 0, 0), batch -> {}, taker, writer(0)))
                .isInstanceOf(StoppedException.class);
        assertThat(written.size()).isLessThan(12);
        assertThat(read.get()).isLessThan(20);
    }

    @Test
    void anInterruptEndsBothAndIsKept() {
        Thread.currentThread().interrupt();
        assertThatThrownBy(() -> mover(() -> {}).move(reader(100_000, 0, 0), batch -> {}, taker, writer(0)))
                .isInstanceOf(StoppedException.class);
        assertThat(Thread.interrupted()).isTrue();
    }
}
