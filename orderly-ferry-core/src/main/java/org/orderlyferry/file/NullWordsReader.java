package org.orderlyferry.file;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.orderlyferry.record.EachRecordReader;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** Takes words for null that only some columns have. */
final class NullWordsReader extends EachRecordReader {

    private final byte[][][] words;

    private NullWordsReader(RecordReader reader, byte[][][] words, Rejects rejects) {
        super(reader, rejects);
        this.words = words;
    }

    /** The reader itself where no column has such words. */
    static RecordReader of(RecordReader reader, Map<String, List<String>> byColumn, Rejects rejects) {
        if (byColumn.isEmpty()) {
            return reader;
        }
        byte[][][] words = reader.table().columnNames().stream()
                .map(n -> byColumn.getOrDefault(n, List.of()).stream()
                        .map(w -> w.getBytes(StandardCharsets.UTF_8))
                        .toArray(byte[][]::new))
                .toArray(byte[][][]::new);
        return new NullWordsReader(reader, words, rejects);
    }

    @Override
    protected void look(RecordBatch batch, int row) {
        for (int column = 0; column < words.length; column++) {
            for (byte[] word : words[column]) {
                if (!batch.isNull(row, column)
                        && Arrays.equals(
                                batch.bytes(),
                                batch.start(row, column),
                                batch.end(row, column),
                                word,
                                0,
                                word.length)) {
                    batch.replaceByNull(row, column);
                }
            }
        }
    }
}
