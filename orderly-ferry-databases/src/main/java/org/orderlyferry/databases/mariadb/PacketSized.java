package org.orderlyferry.databases.mariadb;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/**
 * Gives no more at once than the driver's buffer for a packet has room for. The driver reads 8192 bytes and puts them behind
 * four of a packet's head: whole ones don't fit, and for each the driver would make a buffer of 128 kB, and throw it away.
 */
final class PacketSized extends FilterInputStream {

    private static final int MOST = 8192 - 4;

    PacketSized(InputStream in) {
        super(in);
    }

    @Override
    public int read(byte[] to, int from, int length) throws IOException {
        return super.read(to, from, Math.min(length, MOST));
    }
}
