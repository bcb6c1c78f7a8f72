package org.orderlyferry.columnar.parquet;

import com.github.luben.zstd.Zstd;
import io.airlift.compress.lz4.Lz4Decompressor;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.Arrays;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;
import org.apache.parquet.bytes.BytesInput;
import org.apache.parquet.compression.CompressionCodecFactory;
import org.apache.parquet.hadoop.metadata.CompressionCodecName;
import org.orderlyferry.io.BoundedExpansion;
import org.xerial.snappy.Snappy;

/** Packs and unpacks pages. The library's own way is by classes of a Hadoop installation. Immutable. */
final class Codecs implements CompressionCodecFactory {

    static final Codecs ALL = new Codecs();

    private static final int ZSTD_LEVEL = 3;

    private Codecs() {}

    @Override
    public BytesInputCompressor getCompressor(CompressionCodecName name) {
        mustBeKnown(name);
        return new BytesInputCompressor() {
            @Override
            public BytesInput compress(BytesInput bytes) throws IOException {
                return name == CompressionCodecName.UNCOMPRESSED ? bytes : BytesInput.from(packed(name, all(bytes)));
            }

            @Override
            public CompressionCodecName getCodecName() {
                return name;
            }

            @Override
            public void release() {
                // nothing is held
            }
        };
    }

    @Override
    public BytesInputDecompressor getDecompressor(CompressionCodecName name) {
        mustBeKnown(name);
        return new BytesInputDecompressor() {
            @Override
            public BytesInput decompress(BytesInput bytes, int size) throws IOException {
                return name == CompressionCodecName.UNCOMPRESSED
                        ? bytes
                        : BytesInput.from(unpacked(name, all(bytes), size));
            }

            @Override
            public void decompress(ByteBuffer in, int packedSize, ByteBuffer out, int size) throws IOException {
                byte[] packed = new byte[packedSize];
                in.get(packed);
                out.put(name == CompressionCodecName.UNCOMPRESSED ? packed : unpacked(name, packed, size));
            }

            @Override
            public void release() {
                // nothing is held
            }
        };
    }

    private static byte[] all(BytesInput bytes) throws IOException {
        ByteArrayOutputStream all = new ByteArrayOutputStream(Math.toIntExact(bytes.size()));
        bytes.writeAllTo(all);
        return all.toByteArray();
    }

    private static void mustBeKnown(CompressionCodecName name) {
        switch (name) {
            case UNCOMPRESSED, ZSTD, GZIP, SNAPPY, LZ4_RAW -> {
                // one of ours
            }
            default ->
                throw new IllegalArgumentException(
                        "it is compressed by " + name + "; of these are read: zstd, gzip, snappy, LZ4_RAW, none");
        }
    }

    private static byte[] packed(CompressionCodecName name, byte[] bytes) throws IOException {
        return switch (name) {
            case ZSTD -> Zstd.compress(bytes, ZSTD_LEVEL);
            case SNAPPY -> Snappy.compress(bytes);
            default -> {
                ByteArrayOutputStream out = new ByteArrayOutputStream();
                try (GZIPOutputStream packing = new GZIPOutputStream(out)) {
                    packing.write(bytes);
                }
                yield out.toByteArray();
            }
        };
    }

    /** The size comes from the file: nothing is made room for that its bytes couldn't hold. */
    private static byte[] unpacked(CompressionCodecName name, byte[] packed, int size) throws IOException {
        BoundedExpansion.mustBeInProportion(packed.length, size, "a page");
        byte[] bytes;
        try {
            bytes = switch (name) {
                case ZSTD -> Zstd.decompress(packed, size);
                case SNAPPY -> {
                    BoundedExpansion.mustBeInProportion(packed.length, Snappy.uncompressedLength(packed), "a page");
                    yield Snappy.uncompress(packed);
                }
                case LZ4_RAW -> {
                    byte[] raw = new byte[size];
                    int read = new Lz4Decompressor().decompress(packed, 0, packed.length, raw, 0, size);
                    yield read == size ? raw : Arrays.copyOf(raw, read);
                }
                default -> {
                    try (GZIPInputStream in = new GZIPInputStream(new ByteArrayInputStream(packed))) {
                        yield in.readNBytes(size + 1);
                    }
                }
            };
        } catch (RuntimeException e) {
            throw new IOException("a page can't be unpacked: " + e.getMessage(), e);
        }
        if (bytes.length != size) {
            throw new IOException("a page has " + bytes.length + " bytes, where it should have " + size);
        }
        return bytes;
    }

    @Override
    public void release() {
        // nothing is held
    }
}
