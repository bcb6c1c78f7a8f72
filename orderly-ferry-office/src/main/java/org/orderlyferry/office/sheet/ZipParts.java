package org.orderlyferry.office.sheet;

import java.io.IOException;
import java.io.InputStream;
import java.util.zip.CRC32;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import org.orderlyferry.io.BoundedExpansion;

/** What has to be known of a ZIP file's parts before anything else reads them. */
public final class ZipParts {

    private static final int MOST_PARTS = 100_000;

    private ZipParts() {}

    /**
     * Looks at the number of parts.
     *
     * @throws IOException if there are more than any document has
     */
    public static void mustBeFew(ZipFile zip) throws IOException {
        if (zip.size() > MOST_PARTS) {
            throw new IOException("it has more than " + MOST_PARTS + " parts; it looks as if it was made to do harm");
        }
    }

    /**
     * Reads a part once, since neither Java nor most libraries compare it with its checksum, and it may grow without end whatever
     * the file's directory tells of it.
     *
     * @throws IOException if it isn't what its checksum says
     */
    public static void mustBeWhole(ZipFile zip, ZipEntry entry) throws IOException {
        CRC32 sum = new CRC32();
        byte[] buffer = new byte[64 * 1024];
        long size = 0;
        try (InputStream in = zip.getInputStream(entry)) {
            for (int read = in.read(buffer); read >= 0; read = in.read(buffer)) {
                sum.update(buffer, 0, read);
                size += read;
                BoundedExpansion.mustBeInProportion(entry.getCompressedSize(), size, "its part " + entry.getName());
            }
        }
        if (entry.getCrc() != sum.getValue()) {
            throw new IOException("its part " + entry.getName() + " isn't what its checksum says; the file is damaged");
        }
    }
}
