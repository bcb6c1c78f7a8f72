package org.orderlyferry.cluster.hdfs;

import java.nio.ByteBuffer;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.zip.CRC32C;

/**
 * The checksum that data nodes give of a file, computed of what was sent: the MD5 of its blocks' MD5s, each of the
 * CRC-32C of every 512 bytes, with zeros behind the blocks' up to 32 times a power of two, as its writers once happened to
 * do it. So what is kept is shown to be what was written, from one end to the other. Not safe for use by several
 * threads at once.
 */
final class BlockChecksum {

    private static final int PIECE = 512;
    private static final int MD5 = 16;

    private final long blockSize;
    private final CRC32C crc = new CRC32C();
    private final ByteBuffer four = ByteBuffer.allocate(4);
    private final MessageDigest block = md5();
    private final MessageDigest file = md5();
    private int inPiece;
    private long inBlock;
    private int blocks;

    BlockChecksum(long blockSize) {
        this.blockSize = blockSize;
    }

    private static MessageDigest md5() {
        try {
            return MessageDigest.getInstance("MD5");
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has MD5", e);
        }
    }

    void add(byte[] bytes, int from, int length) {
        int at = from;
        int left = length;
        while (left > 0) {
            int count = (int) Math.min(Math.min(left, PIECE - inPiece), blockSize - inBlock);
            crc.update(bytes, at, count);
            inPiece += count;
            inBlock += count;
            at += count;
            left -= count;
            if (inPiece == PIECE || inBlock == blockSize) {
                endPiece();
            }
            if (inBlock == blockSize) {
                endBlock();
            }
        }
    }

    private void endPiece() {
        block.update(four.clear().putInt((int) crc.getValue()).flip());
        crc.reset();
        inPiece = 0;
    }

    private void endBlock() {
        file.update(block.digest());
        inBlock = 0;
        blocks++;
    }

    /** The checksum in hexadecimal; to be asked once, behind the last byte. */
    String value() {
        if (inPiece > 0) {
            endPiece();
        }
        if (inBlock > 0) {
            endBlock();
        }
        int room = MD5 * 2;
        while (room < MD5 * blocks) {
            room *= 2;
        }
        file.update(new byte[room - MD5 * blocks]);
        return HexFormat.of().formatHex(file.digest());
    }

    /**
     * Whether a checksum that a data node has given, as {@code GETFILECHECKSUM} writes it, is of these bytes.
     *
     * @param algorithm its name, which says how it came about
     * @param bytes how many bytes a CRC covers (4 bytes), how many CRCs a block has (8), the MD5 (16), and zeros
     * @return true also where it came about in another way, of which nothing can be told
     */
    boolean agrees(String algorithm, String bytes) {
        if (!algorithm.matches("MD5-of-\\d+MD5-of-512CRC32C") || bytes.length() < 56) {
            return true;
        }
        return bytes.substring(24, 56).equalsIgnoreCase(value());
    }
}
