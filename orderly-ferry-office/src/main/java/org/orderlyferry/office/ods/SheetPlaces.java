package org.orderlyferry.office.ods;

import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.SequenceInputStream;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.io.Closing;
import org.orderlyferry.io.TemporaryFolder;
import org.orderlyferry.io.Utf8Places;

/**
 * Where each sheet stands. All sheets are one part, which can only be unpacked from its beginning on; unpacked into a file for a
 * while, each can be read without those before it. Otherwise a file of hundreds of sheets would be read hundreds of times.
 */
final class SheetPlaces implements AutoCloseable {

    private final Path unpacked;
    private final long[] starts;
    private final byte[] around;

    private SheetPlaces(Path unpacked, long[] starts, byte[] around) {
        this.unpacked = unpacked;
        this.starts = starts;
        this.around = around;
    }

    /**
     * Unpacks the part.
     *
     * @param content its bytes, in UTF-8
     * @param units at which units of UTF-16 its sheets begin, in ascending order
     * @param prefixes what prefixes stand for around all of them
     * @return empty where a sheet isn't where it should be
     */
    static Optional<SheetPlaces> of(InputStream content, long[] units, Map<String, String> prefixes)
            throws IOException {
        Path unpacked = TemporaryFolder.newFile(".xml");
        try (OutputStream out = new BufferedOutputStream(TemporaryFolder.into(unpacked), 64 * 1024)) {
            Optional<long[]> starts = Utf8Places.find(content, units, '<', out);
            if (starts.isPresent()) {
                return Optional.of(new SheetPlaces(unpacked, starts.get(), around(prefixes)));
            }
        } catch (IOException | RuntimeException | Error e) {
            Closing.after(e, () -> Files.deleteIfExists(unpacked));
            throw e;
        }
        Files.deleteIfExists(unpacked);
        return Optional.empty();
    }

    private static byte[] around(Map<String, String> prefixes) {
        StringBuilder element = new StringBuilder("<around");
        prefixes.forEach((prefix, space) -> element.append(prefix.isEmpty() ? " xmlns" : " xmlns:" + prefix)
                .append("=\"")
                .append(space.replace("&", "&amp;").replace("<", "&lt;").replace("\"", "&quot;"))
                .append('"'));
        return element.append('>').toString().getBytes(StandardCharsets.UTF_8);
    }

    /** The part from a sheet on, inside of an element that says what prefixes stand for. */
    InputStream from(int sheet) throws IOException {
        FileChannel channel = FileChannel.open(unpacked, StandardOpenOption.READ);
        try {
            channel.position(starts[sheet]);
            return new SequenceInputStream(
                    new ByteArrayInputStream(around),
                    new BufferedInputStream(Channels.newInputStream(channel), 64 * 1024));
        } catch (IOException e) {
            Closing.after(e, channel);
            throw e;
        }
    }

    @Override
    public void close() throws IOException {
        Files.deleteIfExists(unpacked);
    }
}
