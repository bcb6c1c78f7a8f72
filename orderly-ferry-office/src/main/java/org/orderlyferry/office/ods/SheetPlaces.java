package org.orderlyferry.office.ods;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.io.Utf8Places;
import org.orderlyferry.office.sheet.UnpackedPart;

/** Where each sheet stands in the part of all of them, so that each can be read without those before it. */
final class SheetPlaces implements AutoCloseable {

    private final UnpackedPart part;
    private final long[] starts;
    private final byte[] around;

    private SheetPlaces(UnpackedPart part, long[] starts, byte[] around) {
        this.part = part;
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
        long[][] starts = {null};
        UnpackedPart part = UnpackedPart.of(
                out -> starts[0] = Utf8Places.find(content, units, '<', out).orElse(null));
        if (starts[0] == null) {
            part.close();
            return Optional.empty();
        }
        return Optional.of(new SheetPlaces(part, starts[0], around(prefixes)));
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
        return new SequenceInputStream(new ByteArrayInputStream(around), part.from(starts[sheet]));
    }

    @Override
    public void close() throws IOException {
        part.close();
    }
}
