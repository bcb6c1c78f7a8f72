package org.orderlyferry.columnar.parquet;

import java.io.IOException;
import java.io.OutputStream;
import org.apache.parquet.io.OutputFile;
import org.apache.parquet.io.PositionOutputStream;

/** A stream that the library writes a file to: it only has to know how many bytes it has written. */
final class SentBytes implements OutputFile {

    private final OutputStream out;

    SentBytes(OutputStream out) {
        this.out = out;
    }

    @Override
    public PositionOutputStream create(long blockSize) {
        return new Counting(out);
    }

    @Override
    public PositionOutputStream createOrOverwrite(long blockSize) {
        return create(blockSize);
    }

    @Override
    public boolean supportsBlockSize() {
        return false;
    }

    @Override
    public long defaultBlockSize() {
        return 0;
    }

    private static final class Counting extends PositionOutputStream {

        private final OutputStream out;
        private long position;

        Counting(OutputStream out) {
            this.out = out;
        }

        @Override
        public long getPos() {
            return position;
        }

        @Override
        public void write(int b) throws IOException {
            out.write(b);
            position++;
        }

        @Override
        public void write(byte[] bytes, int from, int length) throws IOException {
            out.write(bytes, from, length);
            position += length;
        }

        @Override
        public void flush() throws IOException {
            out.flush();
        }

        @Override
        public void close() {
            // whoever opened it closes it
        }
    }
}
