package org.orderlyferry.office.xbase;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.file.StandardOpenOption;
import java.util.Optional;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.OnDisk;
import org.orderlyferry.problem.PlaceException;

/** The memos beside an xBase table: texts in blocks that its records name by number. */
final class MemoFile implements AutoCloseable {

    private static final int DBT_BLOCK = 512;
    private static final int END = 0x1A;
    private static final int LONGEST = 256 * 1024 * 1024;
    private static final int DBASE_4 = 0x0008FFFF;

    private final FileChannel channel;
    private final boolean fpt;
    private final int block;
    private final long size;

    private MemoFile(FileChannel channel, boolean fpt) throws IOException {
        this.channel = channel;
        this.fpt = fpt;
        this.size = channel.size();
        ByteBuffer head = read(0, 24);
        if (fpt) {
            this.block = Math.max(1, head.order(ByteOrder.BIG_ENDIAN).getShort(6) & 0xFFFF);
        } else {
            int told = head.limit() >= 22 ? head.order(ByteOrder.LITTLE_ENDIAN).getShort(20) & 0xFFFF : 0;
            this.block = told >= DBT_BLOCK ? told : DBT_BLOCK;
        }
    }

    /** The file that belongs to a table, if there is one. */
    static Optional<MemoFile> beside(FileSource table) {
        for (String ending : new String[] {"fpt", "FPT", "dbt", "DBT"}) {
            Optional<FileSource> found = table.beside(table.baseName() + "." + ending);
            if (found.isPresent()) {
                return Optional.of(open(found.get(), ending.equalsIgnoreCase("fpt")));
            }
        }
        return Optional.empty();
    }

    private static MemoFile open(FileSource file, boolean fpt) {
        try {
            FileChannel channel = file.onDisk().isPresent()
                    ? FileChannel.open(file.onDisk().get(), StandardOpenOption.READ)
                    : FileChannel.open(
                            OnDisk.copy(file, ".memo"), StandardOpenOption.READ, StandardOpenOption.DELETE_ON_CLOSE);
            try {
                return new MemoFile(channel, fpt);
            } catch (IOException | RuntimeException e) {
                channel.close();
                throw e;
            }
        } catch (IOException e) {
            throw new PlaceException(file.shown(), "can't be read: " + e.getMessage(), e);
        }
    }

    /**
     * A memo's bytes.
     *
     * @throws IllegalArgumentException if there is none of that number; the message completes a sentence
     */
    byte[] memo(long number) {
        try {
            long at = number * block;
            if (at <= 0 || at >= size) {
                throw new IllegalArgumentException("is the number of a memo that its file doesn't have");
            }
            ByteBuffer head = read(at, 8);
            if (fpt) {
                int length = head.order(ByteOrder.BIG_ENDIAN).getInt(4);
                return bytes(at + 8, length);
            }
            if (head.limit() == 8 && head.order(ByteOrder.LITTLE_ENDIAN).getInt(0) == DBASE_4) {
                return bytes(at + 8, head.getInt(4) - 8);
            }
            return upToEnd(at);
        } catch (IOException e) {
            throw new IllegalArgumentException("can't be read: " + e.getMessage(), e);
        }
    }

    private byte[] bytes(long at, int length) throws IOException {
        if (length < 0 || length > LONGEST || at + length > size) {
            throw new IllegalArgumentException("is the number of a memo that doesn't end in its file");
        }
        return read(at, length).array();
    }

    private byte[] upToEnd(long from) throws IOException {
        java.io.ByteArrayOutputStream memo = new java.io.ByteArrayOutputStream();
        for (long at = from; at < size; at += block) {
            ByteBuffer piece = read(at, block);
            for (int i = 0; i < piece.limit(); i++) {
                if (piece.get(i) == END) {
                    return memo.toByteArray();
                }
                memo.write(piece.get(i));
            }
        }
        return memo.toByteArray();
    }

    private ByteBuffer read(long at, int length) throws IOException {
        ByteBuffer buffer = ByteBuffer.allocate((int) Math.max(0, Math.min(length, size - at)));
        while (buffer.hasRemaining() && channel.read(buffer, at + buffer.position()) >= 0) {
            // as much as there is
        }
        return buffer.flip();
    }

    @Override
    public void close() {
        try {
            channel.close();
        } catch (IOException e) {
            throw new PlaceException("memo file", "can't be closed: " + e.getMessage(), e);
        }
    }
}
