package org.orderlyferry.databases.lane;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.orderlyferry.record.RecordBatch;

/** Where a record came from that a server counted. */
class SentRecordsTest {

    private static RecordBatch batch(long... lines) {
        RecordBatch batch = new RecordBatch();
        batch.start(1, "label", "label.csv", true);
        for (long line : lines) {
            batch.add("x");
            batch.endRow(line);
        }
        return batch;
    }

    @Test
    void aRecordIsKnownToTheLineWhereEachHasOne() {
        SentRecords sent = new SentRecords();
        sent.add(batch(2, 3, 4));
        sent.add(batch());
        sent.add(batch(5, 6));
        assertThat(sent.count()).isEqualTo(5);
        assertThat(sent.origin(0)).isEqualTo("label.csv, line 2, table label");
        assertThat(sent.origin(2)).isEqualTo("label.csv, line 4, table label");
        assertThat(sent.origin(3)).isEqualTo("label.csv, line 5, table label");
        assertThat(sent.origin(4)).isEqualTo("label.csv, line 6, table label");
    }

    @Test
    void whereSomeHaveSeveralLinesItIsBetweenTwo() {
        SentRecords sent = new SentRecords();
        sent.add(batch(2, 3, 9));
        assertThat(sent.origin(1))
                .isEqualTo("between label.csv, line 2, table label and label.csv, line 9, table label");
    }

    @Test
    void whatWasNeverSentHasItsNumber() {
        SentRecords sent = new SentRecords();
        assertThat(sent.origin(6)).isEqualTo("the record 7");
        sent.add(batch(2));
        sent.clear();
        assertThat(sent.count()).isZero();
        assertThat(sent.origin(0)).isEqualTo("the record 1");
    }
}
