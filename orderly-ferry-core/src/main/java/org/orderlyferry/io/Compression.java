package org.orderlyferry.io;

import com.github.luben.zstd.ZstdInputStream;
import com.github.luben.zstd.ZstdOutputStream;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;
import org.jspecify.annotations.NullMarked;

/** How files are compressed while they are written. */
@NullMarked
public enum Compression {
    NONE(""),
    /** RFC 1952. */
    GZIP(".gz"),
    /** RFC 8878. */
    ZSTD(".zst");

    private static final int BUFFER = 64 * 1024;

    private final String ending;

    Compression(String ending) {
        this.ending = ending;
    }

    /** What a file's name ends in, with the point. */
    public String ending() {
        return ending;
    }

    /** A stream whose bytes come to another one compressed, which is closed with it. */
    public OutputStream compress(OutputStream out) throws IOException {
        return switch (this) {
            case NONE -> out;
            case GZIP -> new GZIPOutputStream(out, BUFFER);
            // a frame with a checksum, as gzip has
            case ZSTD -> new ZstdOutputStream(out).setChecksum(true);
        };
    }

    /** What a name says: a file that is written there is compressed so. */
    public static Compression ofName(String name) {
        String lower = name.toLowerCase(java.util.Locale.ROOT);
        return lower.endsWith(GZIP.ending) ? GZIP : lower.endsWith(ZSTD.ending) ? ZSTD : NONE;
    }

    /** The bytes of a file, whose name tells how it was compressed. */
    public static InputStream decompressed(InputStream in, String file) throws IOException {
        if (file.endsWith(GZIP.ending)) {
            return new GZIPInputStream(in, BUFFER);
        }
        return file.endsWith(ZSTD.ending) ? new ZstdInputStream(new BufferedInputStream(in, BUFFER)) : in;
    }
}
